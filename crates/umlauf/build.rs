//! The page and the demo clips are built into the program: a change of them builds it anew.

fn main() {
    println!("cargo::rerun-if-changed=../../web/dist");
    println!("cargo::rerun-if-changed=../../demo");
}
