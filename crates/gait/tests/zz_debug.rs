#![allow(warnings)]
mod common;
use common::{CANTER, Ride, TROT, WALK};
use umlauf_gait::base::units::*;
use umlauf_gait::*;
#[test]
fn show() {
    for (name, ride, begins) in [("trot-walk", Ride::default().trot(8).walk(9), 8.0 * TROT)] {
        let mut ride = ride;
        let frame = |s: Seconds| Seconds((s.0 * 60.0 - 1e-9).ceil() / 60.0);
        for m in &mut ride.marks {
            m.on = frame(m.on);
            m.off = m.off.map(frame);
        }
        let o = Options { frame_rate: FrameRate::new(60.0).ok(), ..Options::default() };
        let a = analyse(&ride.marks, &o);
        println!("== {name} begins {begins:.3}");
        for (k, s) in a.strides.iter().enumerate() {
            let b = a.bout_strides.iter().position(|r| r.contains(&k));
            if (s.start - begins).abs() < 2.5 {
                println!(
                    "{k} {:.3}-{:.3} {:?} bout {:?} {:?} on {:?}",
                    s.start,
                    s.end,
                    s.first_hind,
                    b,
                    b.map(|b| a.bouts[b].label.gait),
                    s.on.map(|o| o.map(|o| ((o - begins) * 100.0).round() / 100.0))
                );
            }
        }
        for (t, _) in &a.events.transitions {
            println!("  {:?}", t);
        }
    }
}
