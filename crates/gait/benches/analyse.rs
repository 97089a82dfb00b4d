//! How fast a list of marks becomes an analysis.

use std::hint::black_box;
use std::time::Instant;

use criterion::{Criterion, criterion_group, criterion_main};
use peak_alloc::PeakAlloc;
use umlauf_gait::base::units::{FrameRate, Seconds};
use umlauf_gait::{Footfall, Kept, Limb, Options, analyse};

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

/// Canter and trot in turns, `bouts` of `strides` each.
fn schooling(bouts: u32, strides: u32) -> Vec<Footfall> {
    let mut out = Vec::new();
    let mut start = 0.0;
    for bout in 0..bouts {
        let canters = bout % 2 == 0;
        let (t, duty) = if canters { (0.61, 0.44) } else { (0.75, 0.40) };
        let places = if canters { [0.0, 0.27, 0.31, 0.53] } else { [0.0, 0.5, 0.51, 0.01] };
        for k in 0..strides {
            let t = t * (1.0 + 0.015 * (f64::from(k) * 1.7).sin());
            for (limb, place) in [Limb::RH, Limb::LH, Limb::RF, Limb::LF].into_iter().zip(places) {
                let frame = |s: f64| Seconds((s * 120.0).ceil() / 120.0);
                let on = start + place * t;
                let off = Some(frame(on + duty * t));
                out.push(Footfall { off, ..Footfall::new(limb, frame(on)) });
            }
            start += t;
        }
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

/// One mark moved in ten thousand of many bouts: anew, and with what is known of the others.
fn edit(c: &mut Criterion) {
    let options = Options { frame_rate: FrameRate::new(120.0).ok(), ..Options::default() };
    let marks = schooling(156, 16);
    let mut moved = marks.clone();
    moved[5_000].on.0 += 1.0 / 120.0;
    let kept = Kept::new();
    let mut one = false;
    let time = |mut run: Box<dyn FnMut() + '_>| {
        let mut took: Vec<f64> = (0..100)
            .map(|_| {
                let began = Instant::now();
                run();
                1e3 * began.elapsed().as_secs_f64()
            })
            .collect();
        took.sort_by(f64::total_cmp);
        took[94]
    };
    let anew = time(Box::new(|| drop(black_box(analyse(&moved, &options)))));
    let again = time(Box::new(|| {
        one = !one;
        drop(black_box(kept.analyse(if one { &moved } else { &marks }, &options)));
    }));
    println!(
        "one mark of {} in 156 bouts moved, 95 %: {again:.1} ms, {:.2} of the {anew:.1} ms that all bouts take",
        marks.len(),
        again / anew
    );
    c.bench_function("analyse 10,000 footfalls of 156 bouts", |b| {
        b.iter(|| analyse(black_box(&marks), black_box(&options)));
    });
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
    targets = benches, edit, million
}
criterion_main!(group);
