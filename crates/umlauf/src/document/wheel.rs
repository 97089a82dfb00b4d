//! The wheels of bouts, for drawing.

use serde::{Deserialize, Serialize};
use umlauf_gait::Analysis;
use umlauf_gait::base::thresholds::Thresholds;
use umlauf_gait::figures::wheel::{self, Spoke};
use utoipa::ToSchema;

use crate::clip::mark::LimbCode;

/// A stride on the wheel: phases by limb in the order LF, RF, LH, RH.
#[derive(Clone, Debug, Deserialize, Serialize, ToSchema)]
pub struct WheelStride {
    /// From and to in true seconds; the mean stride has none.
    pub at_s: Option<[f64; 2]>,
    /// Footfalls.
    pub on: [Option<f64>; 4],
    /// Ends of stances.
    pub off: [Option<f64>; 4],
}

/// The wheel of one bout.
#[derive(Clone, Debug, Deserialize, Serialize, ToSchema)]
pub struct Wheel {
    /// Every stride.
    pub strides: Vec<WheelStride>,
    /// The mean stride.
    pub mean: WheelStride,
    /// Sectors with no hoof on the ground, from and to.
    pub air: Vec<[f64; 2]>,
    /// Beats of an ideal stride of this gait.
    pub ideal: Vec<f64>,
    /// When the leg for each hind can act.
    pub leg_windows: Vec<LegWindow>,
}

/// When the leg for a hind can act, phases from and to.
#[derive(Clone, Debug, Deserialize, Serialize, ToSchema)]
pub struct LegWindow {
    /// The hind.
    pub limb: LimbCode,
    /// From.
    pub from: f64,
    /// To.
    pub to: f64,
}

/// Wheels of all bouts.
pub fn wheels(analysis: &Analysis) -> Vec<Wheel> {
    // Four digits are a tenth of a degree and half of the page's reading.
    let short = |p: Option<f64>| p.map(|p| (p * 1e4).round() / 1e4);
    let on_wheel =
        |s: &Spoke, at_s| WheelStride { at_s, on: s.on.map(short), off: s.off.map(short) };
    let limits = Thresholds::default();
    analysis
        .bouts
        .iter()
        .zip(&analysis.bout_strides)
        .map(|(bout, range)| {
            let strides = &analysis.strides[range.clone()];
            let w = wheel::wheel(strides, bout.label.gait, &limits);
            let spokes = w.spokes.iter().zip(strides);
            Wheel {
                strides: spokes.map(|(k, s)| on_wheel(k, Some([s.start, s.end]))).collect(),
                mean: on_wheel(&w.mean, None),
                air: w.air.into_iter().map(|(a, b)| [a, b]).collect(),
                ideal: w.ideal.to_vec(),
                leg_windows: w
                    .leg_windows
                    .iter()
                    .map(|(limb, from, to)| LegWindow {
                        limb: (*limb).into(),
                        from: *from,
                        to: *to,
                    })
                    .collect(),
            }
        })
        .collect()
}
