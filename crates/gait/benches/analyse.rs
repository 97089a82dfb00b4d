//! How fast a list of marks becomes an analysis.

use std::hint::black_box;
use std::time::Instant;

use criterion::{Criterion, criterion_group, criterion_main};
use peak_alloc::PeakAlloc;
use umlauf_gait::base::units::{FrameRate, Seconds};
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

#[global_allocator]
static MEMORY: PeakAlloc = PeakAlloc;

/// A million footfalls: time against a tenth of them, and memory beyond the input.
fn million(c: &mut Criterion) {
    let options = Options { frame_rate: FrameRate::new(120.0).ok(), ..Options::default() };
    let mut took = Vec::new();
    for strides in [25_000, 250_000] {
        let marks = canter(strides);
        let before = MEMORY.current_usage();
        MEMORY.reset_peak_usage();
        drop(black_box(analyse(&marks, &options)));
        let beyond = MEMORY.peak_usage() - before;
        println!(
            "{} footfalls: at most {} bytes a footfall beyond the input (aim under 200)",
            marks.len(),
            beyond / marks.len()
        );
        let best = (0..5)
            .map(|_| {
                let began = Instant::now();
                black_box(analyse(&marks, &options));
                began.elapsed().as_secs_f64()
            })
            .fold(f64::INFINITY, f64::min);
        took.push(best);
        c.bench_function(&format!("analyse {} footfalls", marks.len()), |b| {
            b.iter(|| analyse(black_box(&marks), black_box(&options)));
        });
    }
    println!(
        "1,000,000 footfalls in {:.3} s (aim under 1 s); ten times the input takes {:.1} times as long (aim at most 11)",
        took[1],
        took[1] / took[0]
    );
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
    targets = benches, million
}
criterion_main!(group);
