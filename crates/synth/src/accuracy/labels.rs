//! How often the label of a ride is right, and how far its confidence can be trusted.

use rand::Rng;
use umlauf_gait::Limb;
use umlauf_gait::Options;
use umlauf_gait::analyse;
use umlauf_gait::base::gait::Gait;
use umlauf_gait::base::gait::Label;
use umlauf_gait::base::limb::Side;
use umlauf_gait::base::phase;
use umlauf_gait::base::thresholds::Thresholds;
use umlauf_gait::strides::classify;
use umlauf_gait::strides::classify::Pattern;
use umlauf_gait::strides::seldom::Seldom;
use umlauf_gait::strides::stride::Stride;

use crate::accuracy::row::GAITS;
use crate::accuracy::row::RATES;
use crate::accuracy::row::Row;
use crate::accuracy::row::longest;
use crate::accuracy::row::side;
use crate::accuracy::row::tally;
use crate::marking::Marking;
use crate::schooling::ride;
use crate::schooling::rng;
use crate::schooling::varied;
use crate::template::Template;

/// Gaits of gaited horses, passage and piaffe.
const OTHER_GAITS: [(&str, Gait); 8] = [
    ("passage", Gait::Passage),
    ("piaffe", Gait::Piaffe),
    ("flat-walk", Gait::FlatWalk),
    ("running-walk", Gait::RunningWalk),
    ("stepping-pace", Gait::SteppingPace),
    ("rack", Gait::Rack),
    ("pace", Gait::Pace),
    ("fox-trot", Gait::FoxTrot),
];

/// The label of a ride in one gait.
pub fn gait_labels(rate: f64, runs: u64) -> Row {
    tally("gait of a bout of 8 to 30 strides", rate, runs, (0.995, false), 1, |rng| {
        let (name, gait) = GAITS[rng.random_range(0..GAITS.len())];
        let marking = Marking::hard(rate, rng);
        let lead = side(rng);
        let n = rng.random_range(8..30);
        let school = ride(varied(name, rng), &vec![(lead, lead); n], &marking, rng);
        let found = analyse(&school.marks, &marking.options());
        let label = longest(&found.bouts).map(|b| b.label.gait);
        Some(label == Some(gait))
    })
}

/// The label that the rules give a template's own numbers, without any error: a horse drawn with
/// phases ±0.02 may truly lie over a border of its template's gait.
fn true_label(t: &Template, gaited: bool) -> Label {
    let stride = Stride {
        start: 0.0,
        end: t.stride_s,
        first_hind: Limb::LH,
        on: t.phases.map(|p| Some(p * t.stride_s)),
        off: t.phases.map(|p| Some((p + t.duty) * t.stride_s)),
        at: Seldom::default(),
        sd: Seldom::default(),
        inferred: [false; 4],
        end_inferred: false,
    };
    let limits = Thresholds::default();
    Pattern::of(&stride).map_or(Label::UNCLEAR, |p| classify::label(&p, gaited, &limits))
}

/// The label of a ride in a gait of a gaited horse, in passage or in piaffe.
pub fn other_gait_labels(rate: f64, runs: u64) -> Row {
    tally("gaits of gaited horses, passage, piaffe", rate, runs, (0.995, false), 10, |rng| {
        let (name, _) = OTHER_GAITS[rng.random_range(0..OTHER_GAITS.len())];
        let marking = Marking::hard(rate, rng);
        let n = rng.random_range(8..30);
        let template = varied(name, rng);
        let gaited = !matches!(name, "passage" | "piaffe");
        let school = ride(template, &vec![(Side::Left, Side::Left); n], &marking, rng);
        let found = analyse(&school.marks, &Options { gaited, ..marking.options() });
        let truth = true_label(&template, gaited).gait;
        // On a border within the marks' reach either side is right: such horses are left out here
        // and judged by the confidence table.
        if !clear_of_borders(&template, gaited) {
            return None;
        }
        let label = longest(&found.bouts).map(|b| b.label.gait);
        Some(label == Some(truth))
    })
}

/// Whether no number of a template lies so near to a border (0.01 of a stride, 1 % of its
/// duration) that a bout's mean may truly fall on the other side.
fn clear_of_borders(t: &Template, gaited: bool) -> bool {
    let here = true_label(t, gaited);
    let tries = [-0.01, 0.01].into_iter().flat_map(|d| {
        let mut longer = *t;
        longer.stride_s *= 1.0 + d;
        let mut heavier = *t;
        heavier.duty += d;
        let mut later = *t;
        later.phases[Limb::LF.index()] += d;
        later.phases[Limb::RF.index()] += d;
        [longer, heavier, later]
    });
    tries.into_iter().all(|t| true_label(&t, gaited) == here)
}

/// One row of the confidence table: labels whose confidence lies in a range.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Calibration {
    /// Least confidence.
    pub from: f64,
    /// Most.
    pub to: f64,
    /// Bouts.
    pub bouts: u64,
    /// Mean of what they claim.
    pub claimed: f64,
    /// Share of them that is right.
    pub right: f64,
}

/// Borders of the confidence table.
const CONFIDENCES: [f64; 6] = [0.0, 0.75, 0.85, 0.95, 0.99, 1.001];

/// How often labels of each confidence are right, on rides that are hard to label: of all gaits
/// and of horses drawn anywhere between two of them, 1 to 12 strides, 30 to 240 frames/s, hard
/// marks.
pub fn calibration(runs: u64) -> Vec<Calibration> {
    let mut sums = [(0u64, 0.0, 0u64); CONFIDENCES.len() - 1];
    for k in 0..runs {
        let mut rng = rng(12, k);
        let rate = RATES[rng.random_range(0..RATES.len())];
        let marking = Marking::hard(rate, &mut rng);
        let all = GAITS.iter().chain(&OTHER_GAITS).map(|g| g.0);
        let names: Vec<&str> = all.collect();
        let mut template = varied(names[rng.random_range(0..names.len())], &mut rng);
        if rng.random_bool(0.7) {
            // Somewhere between this horse and another in the same kind of gait.
            let other = varied(names[rng.random_range(0..names.len())], &mut rng);
            if (other.carriage.heaves < 1.5) == (template.carriage.heaves < 1.5) {
                let w: f64 = rng.random();
                template.stride_s += w * (other.stride_s - template.stride_s);
                template.duty += w * (other.duty - template.duty);
                for limb in 0..4 {
                    let way = phase::signed(other.phases[limb] - template.phases[limb]);
                    template.phases[limb] += w * way;
                }
            }
        }
        let gaited = rng.random_bool(0.5);
        let lead = side(&mut rng);
        let n = rng.random_range(2..14);
        let school = ride(template, &vec![(lead, lead); n], &marking, &mut rng);
        let found = analyse(&school.marks, &Options { gaited, ..marking.options() });
        let Some(bout) = longest(&found.bouts) else { continue };
        if bout.label.gait == Gait::Unclear || bout.strides == 0 {
            continue;
        }
        let mut truth = true_label(&template, gaited);
        if lead == Side::Right {
            // Templates of canter are on the left lead.
            truth.hind_lead = truth.hind_lead.map(Side::opposite);
            truth.fore_lead = truth.fore_lead.map(Side::opposite);
        }
        let place = CONFIDENCES.windows(2).position(|w| (w[0]..w[1]).contains(&bout.confidence));
        let sum = &mut sums[place.unwrap_or(0)];
        sum.0 += 1;
        sum.1 += bout.confidence;
        sum.2 += u64::from(bout.label == truth);
    }
    #[expect(clippy::cast_precision_loss, reason = "counts")]
    let row = |((from, to), (n, claimed, right)): ((f64, f64), (u64, f64, u64))| Calibration {
        from,
        to,
        bouts: n,
        claimed: claimed / n.max(1) as f64,
        right: right as f64 / n.max(1) as f64,
    };
    CONFIDENCES.windows(2).map(|w| (w[0], w[1])).zip(sums).map(row).collect()
}
