//! The yard's network: nobody is let in without a password, the line is safe, and its certificate vouches for nothing else.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

mod common;

use std::io::{Read as _, Write as _};
use std::net::{IpAddr, TcpStream};
use std::path::Path;
use std::process::{Command, Stdio};
use std::sync::Arc;

use common::{Program, http};
use serde_json::json;
use tokio_rustls::rustls::pki_types::pem::PemObject as _;
use tokio_rustls::rustls::pki_types::{CertificateDer, ServerName};
use tokio_rustls::rustls::{
    ClientConfig, ClientConnection, RootCertStore, ServerConfig, ServerConnection, StreamOwned,
    crypto,
};
use umlauf::people::certificate::{Authority, Local};
use umlauf::people::network::private_addresses;

const PASSWORD: &str = "salt marsh lantern nine";

/// Runs `umlauf password` with what is handed to it; whether it is taken, and what it says.
fn give_password(data: &Path, password: &str) -> (bool, String) {
    let mut child = Command::new(env!("CARGO_BIN_EXE_umlauf"))
        .args(["password", "--data"])
        .arg(data)
        .stdin(Stdio::piped())
        .stdout(Stdio::piped())
        .stderr(Stdio::piped())
        .spawn()
        .unwrap();
    // One that refuses before it reads hears nothing.
    let _ = child.stdin.take().unwrap().write_all(format!("{password}\n").as_bytes());
    let out = child.wait_with_output().unwrap();
    let said = [out.stdout, out.stderr].concat();
    (out.status.success(), String::from_utf8_lossy(&said).into_owned())
}

/// A client that trusts what a tablet is given.
fn trusting(pem: &[u8]) -> Arc<ClientConfig> {
    let mut roots = RootCertStore::empty();
    roots.add(CertificateDer::from_pem_slice(pem).unwrap()).unwrap();
    let provider = Arc::new(crypto::ring::default_provider());
    let builder = ClientConfig::builder_with_provider(provider);
    let builder = builder.with_safe_default_protocol_versions().unwrap();
    Arc::new(builder.with_root_certificates(roots).with_no_client_auth())
}

/// Asks over the safe line; the head and body of the answer.
fn ask(client: &Arc<ClientConfig>, at: (IpAddr, u16), request: &str) -> std::io::Result<String> {
    let name = ServerName::IpAddress(at.0.into());
    let connection = ClientConnection::new(Arc::clone(client), name).unwrap();
    let mut line = StreamOwned::new(connection, TcpStream::connect(at)?);
    line.write_all(request.as_bytes())?;
    let mut answer = Vec::new();
    match line.read_to_end(&mut answer) {
        // The other end may go without a word of farewell.
        Err(e) if e.kind() != std::io::ErrorKind::UnexpectedEof => Err(e),
        _ => Ok(String::from_utf8_lossy(&answer).into_owned()),
    }
}

fn get(path: &str, cookie: &str) -> String {
    format!(
        "GET {path} HTTP/1.1\r\nHost: 127.0.0.1\r\nCookie: {cookie}\r\nConnection: close\r\n\r\n"
    )
}

#[test]
fn an_address_of_the_network_needs_a_password_and_a_safe_line() {
    let folder = tempfile::tempdir().unwrap();
    let data = folder.path().join("yard");
    let refused = Command::new(env!("CARGO_BIN_EXE_umlauf"))
        .args(["serve", "--address", "0.0.0.0", "--port", "0", "--data"])
        .arg(&data)
        .output()
        .unwrap();
    let said = String::from_utf8_lossy(&refused.stderr).into_owned();
    assert!(!refused.status.success() && said.contains("umlauf password"), "{said}");
    let (taken, said) = give_password(&data, "password2026");
    assert!(!taken && said.contains("first that anybody tries"), "{said}");
    assert!(give_password(&data, PASSWORD).0);

    let program = Program::start(&["serve", "--address", "0.0.0.0"], &data);
    // While it runs, the yard is its own.
    let (taken, said) = give_password(&data, "another lantern nine");
    assert!(!taken && said.contains("Setup gives people their passwords"), "{said}");
    let port: u16 = program.url.rsplit(':').next().unwrap().parse().unwrap();
    http::post(&format!("{}/api/horses", program.url), &json!({"name": "Kiebitz"}));
    let Some(own) = private_addresses().into_iter().find(IpAddr::is_ipv4) else {
        eprintln!("this machine is in no network: nothing is asked over one");
        return;
    };
    let plain = format!("http://{own}:{port}");
    for path in ["/api/yard", "/api/export", "/", "/media/x/original"] {
        let answer = http::get(&format!("{plain}{path}"));
        assert_eq!((answer.status, answer.text.as_str()), (303, ""), "{path}");
    }
    let pem = http::get(&format!("{plain}/tablet/yard.crt")).body;
    let client = trusting(&pem);
    let locked = ask(&client, (own, port), &get("/api/yard", "")).unwrap();
    assert!(locked.starts_with("HTTP/1.1 401") && !locked.contains("Kiebitz"), "{locked}");
    let body = json!({"name": "coach", "password": PASSWORD}).to_string();
    let signed = ask(
        &client,
        (own, port),
        &format!(
            "POST /api/sign-in HTTP/1.1\r\nHost: {own}\r\nContent-Type: application/json\r\nContent-Length: {}\r\nConnection: close\r\n\r\n{body}",
            body.len()
        ),
    );
    let signed = signed.unwrap();
    let cookie = signed.lines().find_map(|l| l.strip_prefix("set-cookie: ")).unwrap();
    for said in ["HttpOnly", "Secure", "SameSite=Strict"] {
        assert!(cookie.contains(said), "{cookie}");
    }
    let kept = cookie.split(';').next().unwrap();
    assert!(ask(&client, (own, port), &get("/api/yard", kept)).unwrap().contains("Kiebitz"));
    // Another yard's authority does not vouch for this one.
    let other = tempfile::tempdir().unwrap();
    let authority = Authority::of(other.path(), "other", &Local::default()).unwrap();
    assert!(ask(&trusting(authority.pem().as_bytes()), (own, port), &get("/", "")).is_err());
    // One machine takes no more lines than are its own, and none of those of this machine itself.
    let many: Vec<TcpStream> = (0..70).map(|_| TcpStream::connect((own, port)).unwrap()).collect();
    let mut shut = many.last().unwrap();
    shut.set_read_timeout(Some(std::time::Duration::from_secs(10))).unwrap();
    assert_eq!(shut.read(&mut [0]).unwrap_or(0), 0);
    // One that is shut answers nothing, and says so or not as its bytes cross.
    let answered = || {
        ask(&client, (own, port), &get("/api/me", "")).is_ok_and(|said| said.starts_with("HTTP"))
    };
    assert!(!answered());
    assert_eq!(http::get(&format!("{}/api/yard", program.url)).status, 200);
    drop(many);
    let again = (0..50).any(|_| {
        std::thread::sleep(std::time::Duration::from_millis(100));
        answered()
    });
    assert!(again);
    from_another_machine(port);
    // Its key is for nobody else's eyes; the certificate stays over a restart.
    use std::os::unix::fs::PermissionsExt as _;
    let mode = std::fs::metadata(data.join("tls/yard.key")).unwrap().permissions().mode();
    assert_eq!(mode & 0o777, 0o600);
    program.kill();
    let program = Program::start(&["serve", "--address", "0.0.0.0"], &data);
    let port: u16 = program.url.rsplit(':').next().unwrap().parse().unwrap();
    assert!(ask(&client, (own, port), &get("/api/yard", kept)).unwrap().contains("Kiebitz"));
}

#[test]
fn a_certificate_and_a_name_of_ones_own_are_served_with() {
    let folder = tempfile::tempdir().unwrap();
    let data = folder.path().join("yard");
    assert!(give_password(&data, PASSWORD).0);
    let pair = rcgen::KeyPair::generate().unwrap();
    let name = "yard.example.org";
    let made = rcgen::CertificateParams::new(vec![name.to_owned()]).unwrap();
    let pem = made.self_signed(&pair).unwrap().pem();
    let [chain, key] = ["chain.pem", "key.pem"].map(|f| folder.path().join(f));
    std::fs::write(&chain, &pem).unwrap();
    std::fs::write(&key, "no key at all").unwrap();
    let (chain, key) = (chain.to_str().unwrap(), key.to_str().unwrap());
    let args = ["--address", "0.0.0.0", "--name", name, "--certificate", chain, "--key", key];
    let Some(own) = private_addresses().into_iter().find(IpAddr::is_ipv4) else {
        eprintln!("this machine is in no network: nothing is asked over one");
        return;
    };
    let refused = Command::new(env!("CARGO_BIN_EXE_umlauf"))
        .args([&["serve", "--port", "0"], args.as_slice(), &["--data"]].concat())
        .arg(&data)
        .output()
        .unwrap();
    let said = String::from_utf8_lossy(&refused.stderr).into_owned();
    assert!(!refused.status.success() && said.contains("holds no key"), "{said}");
    std::fs::write(key, pair.serialize_pem()).unwrap();
    let program = Program::start(&[&["serve"], args.as_slice()].concat(), &data);
    let port: u16 = program.url.rsplit(':').next().unwrap().parse().unwrap();
    let client = trusting(pem.as_bytes());
    let asked = ServerName::try_from(name).unwrap();
    let connection = ClientConnection::new(Arc::clone(&client), asked).unwrap();
    let mut line = StreamOwned::new(connection, TcpStream::connect((own, port)).unwrap());
    let request = get("/api/yard", "").replace("Host: 127.0.0.1", &format!("Host: {name}"));
    line.write_all(request.as_bytes()).unwrap();
    let mut answer = String::new();
    let _ = line.read_to_string(&mut answer);
    // Its own name is no foreign one; who asks still has to sign in.
    assert!(answer.starts_with("HTTP/1.1 401"), "{answer}");
    let foreign = http::send(
        "GET",
        &format!("{}/api/yard", program.url),
        &[("Host", "other.example.org")],
        &[],
    );
    assert_eq!((foreign.status, &foreign.json()["code"]), (403, &"foreign-name".into()));
    // There is nothing to take onto a tablet then.
    let page = http::get(&format!("http://{own}:{port}/tablet")).text;
    assert!(page.contains("certificate is one that tablets know") && !page.contains("SHA-256"));
}

/// The same from a machine of its own, as far as one can be made here (a network namespace, for root).
fn from_another_machine(port: u16) {
    let space = format!("umlauf-{}", std::process::id());
    let ip = |args: &str| {
        let run = Command::new("ip").args(args.split(' ')).stderr(Stdio::null()).status();
        run.is_ok_and(|s| s.success())
    };
    let (near, far) = ("10.213.7.1", "10.213.7.2");
    let made = ip(&format!("netns add {space}"))
        && ip(&format!("link add umlauf0 type veth peer name umlauf1 netns {space}"))
        && ip(&format!("addr add {near}/24 dev umlauf0"))
        && ip("link set umlauf0 up")
        && ip(&format!("-n {space} addr add {far}/24 dev umlauf1"))
        && ip(&format!("-n {space} link set umlauf1 up"));
    if made {
        // The new address is listened to when it is next looked for.
        let said = (0..20).find_map(|_| {
            let script = format!(
                "exec 3<>/dev/tcp/{near}/{port} && printf 'GET /api/yard HTTP/1.1\\r\\nHost: {near}\\r\\nConnection: close\\r\\n\\r\\n' >&3 && cat <&3"
            );
            let asked = Command::new("ip")
                .args(["netns", "exec", &space, "bash", "-c", &script])
                .stderr(Stdio::null())
                .output()
                .unwrap();
            std::thread::sleep(std::time::Duration::from_millis(500));
            let said = String::from_utf8_lossy(&asked.stdout).into_owned();
            (!said.is_empty()).then_some(said)
        });
        ip(&format!("netns del {space}"));
        let said = said.expect("an answer");
        assert!(said.starts_with("HTTP/1.1 303") && !said.contains("Kiebitz"), "{said}");
    } else {
        eprintln!("no other machine can be made here");
        ip(&format!("netns del {space}"));
    }
}

/// Shakes hands with a server of a configuration under a name.
fn shakes_hands(
    client: &Arc<ClientConfig>,
    server: &Arc<ServerConfig>,
    name: &str,
) -> Result<(), String> {
    let name = ServerName::try_from(name.to_owned()).unwrap();
    let mut client = ClientConnection::new(Arc::clone(client), name).unwrap();
    let mut server = ServerConnection::new(Arc::clone(server)).unwrap();
    while client.is_handshaking() || server.is_handshaking() {
        let mut wire = Vec::new();
        while client.wants_write() {
            client.write_tls(&mut wire).map_err(|e| e.to_string())?;
        }
        server.read_tls(&mut wire.as_slice()).map_err(|e| e.to_string())?;
        server.process_new_packets().map_err(|e| e.to_string())?;
        let mut wire = Vec::new();
        while server.wants_write() {
            server.write_tls(&mut wire).map_err(|e| e.to_string())?;
        }
        client.read_tls(&mut wire.as_slice()).map_err(|e| e.to_string())?;
        client.process_new_packets().map_err(|e| e.to_string())?;
    }
    Ok(())
}

/// Whoever steals the yard's key cannot pass for another site on a tablet that trusts the yard.
#[test]
fn the_yards_certificate_vouches_for_private_addresses_only() {
    let folder = tempfile::tempdir().unwrap();
    let local = |names: &[&str], addresses: &[&str]| Local {
        names: names.iter().map(|n| (*n).to_owned()).collect(),
        addresses: addresses.iter().map(|a| a.parse().unwrap()).collect(),
    };
    let own = local(&["watthof", "watthof.local"], &["192.168.7.4", "fd00::2"]);
    let authority = Authority::of(folder.path(), "here", &own).unwrap();
    let client = trusting(authority.pem().as_bytes());
    let good = authority.serving(&own).unwrap();
    for name in ["watthof", "watthof.local", "192.168.7.4", "fd00::2"] {
        assert_eq!(shakes_hands(&client, &good, name), Ok(()), "{name}");
    }
    assert!(shakes_hands(&client, &good, "192.168.7.5").is_err());
    // The address of tomorrow is vouched for by the same authority.
    let moved = Authority::of(folder.path(), "here", &local(&[], &["10.1.2.3"])).unwrap();
    assert_eq!(moved.pem(), authority.pem());
    let tomorrow = moved.serving(&local(&[], &["10.1.2.3"])).unwrap();
    assert_eq!(shakes_hands(&client, &tomorrow, "10.1.2.3"), Ok(()));
    for (names, addresses, name) in [
        (vec!["bank.example.org"], vec![], "bank.example.org"),
        (vec![], vec!["93.184.216.34"], "93.184.216.34"),
        (vec![], vec!["2001:db8::1"], "2001:db8::1"),
    ] {
        let stolen = authority.serving(&local(&names, &addresses)).unwrap();
        let refused = shakes_hands(&client, &stolen, name).unwrap_err();
        assert!(refused.contains("NameConstraint"), "{name}: {refused}");
    }
}
