//! Every address against every role and none.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

mod common;

use std::collections::BTreeSet;
use std::net::IpAddr;
use std::sync::Arc;

use axum::Router;
use axum::body::{Body, to_bytes};
use axum::http::{Request, header};
use common::footage;
use serde_json::{Value, json};
use tower::ServiceExt as _;
use umlauf::api::extract::cookie;
use umlauf::app::App;
use umlauf::people::password;
use umlauf::people::secret::{hashed, secret};
use umlauf::people::who::Peer;
use umlauf::server::router::router;
use umlauf_store::Store;
use umlauf_store::account::AccountForm;
use umlauf_store::link::Shows;
use umlauf_store::person::Person;
use umlauf_store::role::Role;
use umlauf_store::yard::About;

/// Who is let in: nobody signed in, a rider, an assistant, a coach.
const TABLE: &str = "
n r a c  GET /api/me
n r a c  GET /api/openapi.json
n r a c  GET /link/{secret}
n r a c  GET /link/{secret}/film
n r a c  GET /tablet
n r a c  GET /tablet/trusted.svg
n r a c  GET /tablet/yard.crt
n r a c  POST /api/sign-in
n r a c  POST /api/sign-out
- r a c  GET /api/own
- r a c  GET /api/reports/horse/{horse}/{for}
- r a c  GET /api/reports/session/{session}
- r a c  GET /media/{content}/{which}
- r a c  PUT /api/me/password
- - a c  DELETE /api/hand
- - a c  DELETE /api/uploads/{upload}
- - a c  GET /api/check
- - a c  GET /api/clips/{clip}
- - a c  GET /api/clips/{clip}/clicks.wav
- - a c  GET /api/clips/{clip}/desk
- - a c  GET /api/clips/{clip}/frames
- - a c  GET /api/clips/{clip}/ground
- - a c  GET /api/clips/{clip}/next
- - a c  GET /api/clips/{clip}/revision
- - a c  GET /api/clips/{clip}/sound
- - a c  GET /api/clips/{clip}/told-anew
- - a c  GET /api/compare
- - a c  GET /api/hand
- - a c  GET /api/horses/{horse}/record
- - a c  GET /api/jobs
- - a c  GET /api/keys
- - a c  GET /api/sessions/{session}/glance
- - a c  GET /api/uploads
- - a c  GET /api/vocabulary
- - a c  GET /api/yard
- - a c  POST /api/analyse
- - a c  POST /api/arena/figure
- - a c  POST /api/clips/{clip}/again
- - a c  POST /api/clips/{clip}/edits
- - a c  POST /api/clips/{clip}/find
- - a c  POST /api/clips/{clip}/redo
- - a c  POST /api/clips/{clip}/undo
- - a c  POST /api/horses
- - a c  POST /api/horses/{horse}/sessions
- - a c  POST /api/jobs/{job}/cancel
- - a c  POST /api/jobs/{job}/retry
- - a c  POST /api/uploads
- - a c  POST /api/uploads/{upload}/finish
- - a c  PUT /api/clips/{clip}/calibration
- - a c  PUT /api/clips/{clip}/place
- - a c  PUT /api/clips/{clip}/settings
- - a c  PUT /api/clips/{clip}/shown
- - a c  PUT /api/horses/{horse}
- - a c  PUT /api/sessions/{session}
- - a c  PUT /api/uploads/{upload}
- - - c  DELETE /api/clips/{clip}
- - - c  DELETE /api/horses/{horse}
- - - c  DELETE /api/links/{link}
- - - c  DELETE /api/people/{person}
- - - c  DELETE /api/sessions/{session}
- - - c  GET /api/acts
- - - c  GET /api/backups
- - - c  GET /api/backups/days
- - - c  GET /api/backups/days/{day}
- - - c  GET /api/clips/{clip}/footfalls.csv
- - - c  GET /api/clips/{clip}/footfalls.vtt
- - - c  GET /api/export
- - - c  GET /api/horses/{horse}/record.csv
- - - c  GET /api/links
- - - c  GET /api/network
- - - c  GET /api/people
- - - c  GET /api/setup
- - - c  GET /api/space
- - - c  POST /api/backups
- - - c  POST /api/backups/days/{day}/horses/{horse}
- - - c  POST /api/backups/restore
- - - c  POST /api/clips/{clip}/restore
- - - c  POST /api/horses/{horse}/restore
- - - c  POST /api/import
- - - c  POST /api/links
- - - c  POST /api/people
- - - c  POST /api/people/{person}/sign-out
- - - c  POST /api/sessions/{session}/restore
- - - c  POST /api/space/empty
- - - c  PUT /api/backups
- - - c  PUT /api/horses/{horse}/target
- - - c  PUT /api/keys
- - - c  PUT /api/network
- - - c  PUT /api/people/{person}
- - - c  PUT /api/people/{person}/password
- - - c  PUT /api/sessions/{session}/mark
- - - c  PUT /api/setup
";

/// A yard with two horses, each with a session and a film, and somebody of each role signed in. The rider's is the first.
struct Yard {
    _folder: tempfile::TempDir,
    app: Arc<App>,
    router: Router,
    /// What the devices of rider, assistant and coach keep.
    devices: [String; 3],
    link: String,
}

const CONTENT: [char; 2] = ['a', 'b'];
const NOTE: &str = "for the coach’s eyes";

fn yard() -> Yard {
    let folder = tempfile::tempdir().unwrap();
    let store = Store::open(folder.path(), None).unwrap();
    let now = jiff::Timestamp::now().as_millisecond();
    for (name, content) in ["Kiebitz", "Distel"].iter().zip(CONTENT) {
        let horse = store.add_horse(name, None, false).unwrap();
        let about = About { note: NOTE.into(), rider: "Henrike".into(), ..About::default() };
        let session = store.add_session(horse.id, "2026-11-14", &about).unwrap();
        let footage = footage(content);
        let at = store.footage_folder(&footage.content);
        std::fs::create_dir_all(&at).unwrap();
        std::fs::write(at.join("original.mp4"), name).unwrap();
        store.add_clip(Some(session.id), name, &footage, &[0, 20_000]).unwrap();
    }
    let kept = password::kept("salt marsh lantern nine").unwrap();
    let roles = [Role::Rider, Role::Assistant, Role::Coach];
    let devices = ["henrike", "momme", "coach"].map(|_| secret());
    for ((name, role), device) in ["Henrike", "Momme", "coach"].into_iter().zip(roles).zip(&devices)
    {
        let horses = if role == Role::Rider { vec![1] } else { vec![] };
        let person = Person::named(name).unwrap();
        let form = AccountForm { person, role, under_age: role == Role::Rider, horses };
        let id = store.add_account(&form, &kept).unwrap();
        store.sign_in(id, &hashed(device), "a tablet", now).unwrap();
    }
    let link = secret();
    let shows = Shows::Film { clip: 1, silent: false, blurred: false };
    store.add_link(&hashed(&link), shows, now + 60_000, &Person::coach()).unwrap();
    let app = App::new(store).unwrap();
    Yard { _folder: folder, router: router(Arc::clone(&app)), app, devices, link }
}

/// An answer: status, body.
type Answer = (u16, Vec<u8>);

impl Yard {
    async fn send(&self, who: Option<usize>, method: &str, path: &str, body: &Value) -> Answer {
        let from = IpAddr::from([192, 168, 7, 9]);
        self.from(Peer { address: from, secure: true }, who, method, path, body).await
    }

    async fn from(
        &self,
        peer: Peer,
        who: Option<usize>,
        method: &str,
        path: &str,
        body: &Value,
    ) -> Answer {
        let mut request = Request::builder()
            .method(method)
            .uri(path)
            .header(header::HOST, "192.168.7.4:4747")
            .header(header::CONTENT_TYPE, "application/json");
        if let Some(who) = who {
            let kept = format!("{}={}", cookie(&self.app.identity), self.devices[who]);
            request = request.header(header::COOKIE, kept);
        }
        let mut request = request.body(Body::from(body.to_string())).unwrap();
        request.extensions_mut().insert(peer);
        let answer = self.router.clone().oneshot(request).await.unwrap();
        let status = answer.status().as_u16();
        (status, to_bytes(answer.into_body(), 16 << 20).await.unwrap().to_vec())
    }

    fn real(&self, address: &str) -> String {
        let content = String::from(CONTENT[0]).repeat(64);
        let parts = [
            ("{horse}", "1"),
            ("{session}", "1"),
            ("{clip}", "1"),
            ("{person}", "99"),
            ("{link}", "99"),
            ("{job}", "99"),
            ("{upload}", "none"),
            ("{for}", "coach"),
            ("{content}", content.as_str()),
            ("{which}", "original"),
            ("{secret}", self.link.as_str()),
        ];
        parts.iter().fold(address.to_owned(), |path, (part, value)| path.replace(part, value))
    }
}

/// Whether an answer lets in, whatever it then says.
fn let_in((status, body): &Answer) -> bool {
    let code = serde_json::from_slice::<Value>(body).map_or(Value::Null, |v| v["code"].clone());
    match status {
        401 => code != "sign-in",
        403 => code != "not-yours",
        _ => true,
    }
}

#[tokio::test]
async fn every_address_is_answered_to_whom_the_table_says_and_to_nobody_else() {
    let yard = yard();
    let rows: Vec<(Vec<bool>, &str, &str)> = TABLE
        .lines()
        .filter(|l| !l.is_empty())
        .map(|l| {
            let words: Vec<&str> = l.split_whitespace().collect();
            (words[..4].iter().map(|w| *w != "-").collect(), words[4], words[5])
        })
        .collect();
    // The table has every address there is.
    let document: Value = serde_json::from_str(&umlauf::api::openapi()).unwrap();
    let mut there = BTreeSet::from([
        ("GET".to_owned(), "/api/openapi.json".to_owned()),
        ("GET".to_owned(), "/media/{content}/{which}".to_owned()),
    ]);
    let mut names = BTreeSet::new();
    for (path, operations) in document["paths"].as_object().unwrap() {
        for (method, operation) in operations.as_object().unwrap() {
            // Two of one name would be one to whoever makes a page's types of them.
            assert!(names.insert(operation["operationId"].to_string()), "{method} {path}");
        }
        there.extend(
            operations.as_object().unwrap().keys().map(|m| (m.to_uppercase(), path.clone())),
        );
    }
    let told = rows.iter().map(|(_, m, p)| ((*m).to_owned(), (*p).to_owned()));
    let told: BTreeSet<_> =
        told.filter(|(_, p)| p.starts_with("/api") || p.starts_with("/media")).collect();
    assert_eq!(told, there);
    // Those who may least come first: what they change would be gone for the others.
    let mut wrong = Vec::new();
    for (k, who) in [None, Some(0), Some(1), Some(2)].into_iter().enumerate() {
        for (lets, method, address) in rows.iter().filter(|r| r.2 != "/api/sign-out") {
            let answer = yard.send(who, method, &yard.real(address), &json!({})).await;
            if let_in(&answer) != lets[k] {
                wrong.push(format!("{method} {address} answers {} to {who:?}", answer.0));
            }
        }
        // What is nowhere says no more than what is not one's own.
        let nowhere = yard.send(who, "GET", "/api/nothing", &json!({})).await.0;
        assert_eq!(nowhere, [401, 403, 403, 404][k]);
    }
    assert_eq!(wrong, Vec::<String>::new());
    for who in [None, Some(0), Some(1), Some(2)] {
        assert_eq!(yard.send(who, "POST", "/api/sign-out", &json!({})).await.0, 204);
    }
    // Nobody is signed in any more.
    assert_eq!(yard.send(Some(2), "GET", "/api/yard", &json!({})).await.0, 401);
}

#[tokio::test]
async fn a_rider_sees_the_own_horse_without_the_coachs_notes_and_no_other() {
    let yard = yard();
    let get = async |who, path: &str| yard.send(Some(who), "GET", path, &json!({})).await;
    let own: Value = serde_json::from_slice(&get(0, "/api/own").await.1).unwrap();
    let names: Vec<&Value> = own["horses"].as_array().unwrap().iter().map(|h| &h["name"]).collect();
    assert_eq!(names, ["Kiebitz"]);
    assert!(!own.to_string().contains(NOTE) && !own.to_string().contains("Distel"));
    // Also one that asks for the coach's report is given the rider's.
    let (status, report) = get(0, "/api/reports/session/1?for=coach").await;
    let report = String::from_utf8(report).unwrap();
    assert!(status == 200 && report.contains("Kiebitz") && !report.contains(NOTE));
    let coachs = String::from_utf8(get(2, "/api/reports/session/1").await.1).unwrap();
    assert!(coachs.contains(NOTE));
    let film = |k: usize| format!("/media/{}/original", String::from(CONTENT[k]).repeat(64));
    assert_eq!(get(0, &film(0)).await, (200, b"Kiebitz".to_vec()));
    for foreign in
        [film(1).as_str(), "/api/reports/session/2", "/api/reports/horse/2/coach?gait=trot"]
    {
        assert_eq!(get(0, foreign).await.0, 404, "{foreign}");
        assert_ne!(get(2, foreign).await.0, 404, "{foreign}");
    }
    // What is taken away is not shown either.
    assert_eq!(yard.send(Some(2), "DELETE", "/api/clips/1", &json!({})).await.0, 204);
    assert_eq!(get(0, &film(0)).await.0, 404);
    assert_eq!(
        yard.send(None, "GET", &format!("/link/{}/film", yard.link), &json!({})).await.0,
        404
    );
    assert_eq!(yard.send(Some(2), "DELETE", "/api/sessions/1", &json!({})).await.0, 204);
    assert_eq!(get(0, "/api/reports/session/1").await.0, 404);
}

#[tokio::test]
async fn only_this_machine_asking_for_itself_needs_no_password_and_nothing_is_told_over_a_plain_line()
 {
    let yard = yard();
    let here = Peer { address: [127, 0, 0, 1].into(), secure: true };
    let get = async |peer, path: &str| yard.from(peer, None, "GET", path, &json!({})).await.0;
    assert_eq!(get(here, "/api/yard").await, 200);
    let plain = Peer { address: [192, 168, 7, 9].into(), secure: false };
    for path in ["/api/yard", "/api/me", "/", "/link/x"] {
        assert_eq!(get(plain, path).await, 303, "{path}");
    }
    assert_eq!(
        yard.from(plain, Some(2), "POST", "/api/horses", &json!({"name": "x"})).await.0,
        403
    );
    assert_eq!(get(plain, "/tablet").await, 200);
    // A program on this machine that passes on what another one asks.
    let passed = |header: &str| {
        let mut request = Request::get("/api/yard")
            .header(header::HOST, "localhost")
            .header(header, "192.168.7.9")
            .body(Body::empty())
            .unwrap();
        request.extensions_mut().insert(here);
        yard.router.clone().oneshot(request)
    };
    for header in ["x-forwarded-for", "forwarded", "via", "x-real-ip"] {
        assert_eq!(passed(header).await.unwrap().status(), 401, "{header}");
    }
    // Who comes from nowhere that is known is nobody.
    let request = Request::get("/api/yard").header(header::HOST, "localhost");
    let request = request.body(Body::empty()).unwrap();
    assert_eq!(yard.router.clone().oneshot(request).await.unwrap().status(), 401);
}

#[tokio::test]
async fn wrong_passwords_wait_and_the_machine_itself_never_does() {
    let yard = yard();
    let try_it = async |name: &str, password: &str| {
        yard.send(None, "POST", "/api/sign-in", &json!({"name": name, "password": password})).await
    };
    // A name that nobody has is refused in the same words.
    let wrong = try_it("coach", "salt marsh lantern ten").await;
    assert_eq!(wrong, try_it("nobody", "salt marsh lantern nine").await);
    assert_eq!(wrong.0, 401);
    for _ in 0..3 {
        assert_eq!(try_it("Coach", "guess guess guess").await.0, 401);
    }
    let (status, says) = try_it("coach", "salt marsh lantern nine").await;
    assert_eq!(status, 429);
    assert!(String::from_utf8(says).unwrap().contains("seconds"));
    let here = Peer { address: [127, 0, 0, 1].into(), secure: true };
    assert_eq!(yard.from(here, None, "GET", "/api/people", &json!({})).await.0, 200);
    // Whoever is signed in stays so, and other machines are not locked out.
    assert_eq!(yard.send(Some(2), "GET", "/api/yard", &json!({})).await.0, 200);
    let other = Peer { address: [192, 168, 7, 10].into(), secure: true };
    let right = json!({"name": " COACH ", "password": "salt marsh lantern nine"});
    assert_eq!(yard.from(other, None, "POST", "/api/sign-in", &right).await.0, 200);
    // A hundred at once from one machine are not a hundred tries.
    let third = Peer { address: [192, 168, 7, 11].into(), secure: true };
    let guess = json!({"name": "momme", "password": "guess guess guess"});
    let all = futures_util::future::join_all(
        (0..100).map(|_| yard.from(third, None, "POST", "/api/sign-in", &guess)),
    );
    let tried = all.await.iter().filter(|(status, _)| *status == 401).count();
    assert_eq!(tried, 5);
}

#[tokio::test]
async fn a_coach_can_always_sign_in_and_who_changed_what_is_told() {
    let yard = yard();
    let coach =
        async |method: &str, path: &str, body: Value| yard.send(Some(2), method, path, &body).await;
    // The last coach cannot make himself an assistant, nor go before the others have.
    let as_assistant = json!({"name": "coach", "role": "assistant"});
    assert_eq!(coach("PUT", "/api/people/3", as_assistant).await.0, 422);
    assert_eq!(coach("DELETE", "/api/people/3", json!({})).await.0, 422);
    // A name is had once, whatever its case; a horse must be there; a password must be one.
    let add = |name: &str, horses: Value, password: &str| json!({"person": {"name": name, "role": "rider", "horses": horses}, "password": password});
    let good = "dune grass seven owls";
    for wrong in [
        add("HENRIKE", json!([]), good),
        add("Frauke", json!([77]), good),
        add("Frauke", json!([]), "short"),
        add("", json!([]), good),
    ] {
        let status = coach("POST", "/api/people", wrong.clone()).await.0;
        assert!(status == 422 || status == 404, "{wrong}: {status}");
    }
    assert_eq!(coach("POST", "/api/people", add("Frauke", json!([2]), good)).await.0, 200);
    // Another password signs out everywhere.
    assert_eq!(yard.send(Some(0), "GET", "/api/own", &json!({})).await.0, 200);
    let new = json!({"password": good});
    assert_eq!(coach("PUT", "/api/people/1/password", new).await.0, 204);
    assert_eq!(yard.send(Some(0), "GET", "/api/own", &json!({})).await.0, 401);
    assert_eq!(
        yard.send(Some(1), "PUT", "/api/horses/2", &json!({"name": "Distel", "gaited": false}))
            .await
            .0,
        204
    );
    let told: Value =
        serde_json::from_slice(&coach("GET", "/api/acts", json!({})).await.1).unwrap();
    let told: Vec<String> = told["acts"]
        .as_array()
        .unwrap()
        .iter()
        .map(|a| format!("{} {}", a["who"].as_str().unwrap(), a["did"].as_str().unwrap()))
        .collect();
    assert_eq!(
        told,
        [
            "Momme changed the card of Distel",
            "coach gave another password to Henrike",
            "coach let somebody in",
        ]
    );
    // What is kept tells no password and no secret of a device.
    let file = std::fs::read(yard.app.store.folder().join(Store::FILE)).unwrap();
    let log = std::fs::read(yard.app.store.folder().join("yard.sqlite-wal")).unwrap_or_default();
    let holds = |text: &str| {
        [&file, &log].iter().any(|f| f.windows(text.len()).any(|w| w == text.as_bytes()))
    };
    assert!(holds("Frauke") && !holds(good) && !holds(&yard.devices[1]) && !holds(&yard.link));
}

#[tokio::test]
async fn a_link_of_somebody_under_age_is_made_only_when_it_was_agreed() {
    let yard = yard();
    let link = |agreed: bool| json!({"session": 1, "days": 7, "agreed": agreed});
    let coach = async |body: Value| yard.send(Some(2), "POST", "/api/links", &body).await;
    // Nobody could open it yet.
    assert_eq!(coach(link(true)).await.0, 422);
    yard.app.network.send_modify(|n| {
        n.here = Some(([127, 0, 0, 1].into(), 4747));
        n.addresses = vec![[192, 168, 7, 4].into()];
    });
    let (status, says) = coach(link(false)).await;
    assert!(status == 409 && String::from_utf8(says).unwrap().contains("Henrike is under age"));
    assert_eq!(coach(json!({"session": 1, "days": 31, "agreed": true})).await.0, 422);
    // A name that is nobody's may be another way to write hers; that of somebody known is not.
    for (rider, status) in [("Henny", 409), ("Momme", 200)] {
        let about = json!({"date": "2026-11-14", "rider": rider});
        assert_eq!(yard.send(Some(2), "PUT", "/api/sessions/1", &about).await.0, 204);
        assert_eq!(coach(link(false)).await.0, status, "{rider}");
    }
    let (status, made) = coach(link(true)).await;
    assert_eq!(status, 200);
    let made: Value = serde_json::from_slice(&made).unwrap();
    let address =
        made["address"].as_str().unwrap().strip_prefix("https://192.168.7.4:4747").unwrap();
    let (status, report) = yard.send(None, "GET", address, &json!({})).await;
    let report = String::from_utf8(report).unwrap();
    assert!(status == 200 && report.contains("Kiebitz") && !report.contains(NOTE));
    // It ends when the coach says so.
    let links: Value =
        serde_json::from_slice(&yard.send(Some(2), "GET", "/api/links", &json!({})).await.1)
            .unwrap();
    let all = links["links"].as_array().unwrap();
    let own = all.iter().rfind(|l| l["shows"].as_str().unwrap().starts_with("Report")).unwrap();
    let end = format!("/api/links/{}", own["id"]);
    assert_eq!(yard.send(Some(2), "DELETE", &end, &json!({})).await.0, 204);
    assert_eq!(yard.send(None, "GET", address, &json!({})).await.0, 404);
}
