//! How fast a list of marks becomes an analysis.

use std::hint::black_box;

use criterion::{Criterion, criterion_group, criterion_main};
use umlauf_gait::units::{FrameRate, Seconds};
use umlauf_gait::{Footfall, Limb, Options, analyse};

/// A left-lead canter of `strides` strides stepped off at 120 frames/s, its durations wandering
/// by 1.5 % in a fixed pattern.
fn canter(strides: u32) -> Vec<Footfall> {
    let mut out = Vec::new();
    let mut start = 0.0;
    for k in 0..strides {
        let t = 0.61 * (1.0 + 0.015 * (f64::from(k) * 1.7).sin());
        for (limb, phase) in [(Limb::RH, 0.0), (Limb::LH, 0.27), (Limb::RF, 0.31), (Limb::LF, 0.53)]
        {
            let frame = |s: f64| Seconds((s * 120.0).ceil() / 120.0);
            let on = start + phase * t;
            out.push(Footfall {
                off: Some(frame(on + 0.44 * t)),
                ..Footfall::new(limb, frame(on))
            });
        }
        start += t;
    }
    out
}

fn benches(c: &mut Criterion) {
    let options = Options { frame_rate: FrameRate::new(120.0).ok(), ..Options::default() };
    for strides in [200, 2_000, 20_000] {
        let marks = canter(strides);
        c.bench_function(&format!("analyse a canter of {strides} strides"), |b| {
            b.iter(|| analyse(black_box(&marks), black_box(&options)));
        });
    }
}

criterion_group! {
    name = group;
    config = Criterion::default().sample_size(20);
    targets = benches
}
criterion_main!(group);
