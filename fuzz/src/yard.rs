//! A yard in memory that is asked as the page asks it.

use std::sync::Arc;

use axum::Router;
use axum::body::{Body, to_bytes};
use axum::http::{Request, header};
use tokio::runtime::Runtime;
use tower::ServiceExt as _;
use umlauf::app::App;
use umlauf::people::who::Peer;
use umlauf::server::router::router;
use umlauf_store::Store;
use umlauf_store::clip::Footage;
use umlauf_store::yard::About;

/// What is kept grows from input to input: a new yard after so many.
const ASKED: u32 = 5000;

/// A yard with a horse, a session and a clip of two seconds, each number 1.
pub struct Yard {
    runtime: Runtime,
    router: Router,
    asked: u32,
    _folder: tempfile::TempDir,
}

impl Yard {
    /// A new one, in memory.
    pub fn new() -> Self {
        let folder = tempfile::tempdir_in("/dev/shm").expect("a folder in memory");
        let store = Store::open(folder.path(), None).expect("a yard");
        let horse = store.add_horse("Kiebitz", None, false).expect("a horse").id;
        let session = store.add_session(horse, "2026-11-14", &About::default()).expect("a session");
        let footage = Footage {
            content: "a".repeat(64),
            file: "original.mp4".into(),
            bytes: 1,
            codec: "h264".into(),
            width: 640,
            height: 360,
            rotation: 0,
            frame_rate: Some(60.0),
            tagged_rate: None,
            recorded: None,
        };
        let frames: Vec<i64> = (0..120).map(|k| k * 16_667).collect();
        store.add_clip(Some(session.id), "kiebitz", &footage, &frames).expect("a clip");
        let app = App::new(store).expect("a yard");
        let runtime = tokio::runtime::Builder::new_current_thread().enable_all().build();
        Self { runtime: runtime.expect("a runtime"), router: router(Arc::clone(&app)), asked: 0, _folder: folder }
    }

    /// Asks at an address with a body: any answer but one that the server failed.
    pub fn ask(&mut self, method: &str, address: &str, body: &[u8]) {
        self.asked += 1;
        if self.asked > ASKED {
            *self = Self::new();
        }
        let mut request = Request::builder()
            .method(method)
            .uri(address)
            .header(header::HOST, "127.0.0.1:4747")
            .header(header::CONTENT_TYPE, "application/json")
            .body(Body::from(body.to_vec()))
            .expect("a request");
        request.extensions_mut().insert(Peer { address: [127, 0, 0, 1].into(), secure: false });
        let router = self.router.clone();
        let status = self.runtime.block_on(async {
            let answer = router.oneshot(request).await.expect("an answer");
            let status = answer.status().as_u16();
            let said = to_bytes(answer.into_body(), 64 << 20).await.expect("an answer of bounded size");
            if status >= 500 {
                eprintln!("{method} {address}: {status} {}", String::from_utf8_lossy(&said));
            }
            status
        });
        assert!(status < 500);
    }
}

thread_local! {
    static YARD: std::cell::RefCell<Option<Yard>> = const { std::cell::RefCell::new(None) };
}

/// Asks one of `addresses`, which the first byte chooses, with the rest as its body.
pub fn ask_one(addresses: &[(&str, &str)], bytes: &[u8]) {
    let Some((first, body)) = bytes.split_first() else { return };
    let (method, address) = addresses[usize::from(*first) % addresses.len()];
    YARD.with_borrow_mut(|yard| yard.get_or_insert_with(Yard::new).ask(method, address, body));
}
