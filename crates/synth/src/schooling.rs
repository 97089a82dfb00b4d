//! Rides with everything in them known, drawn at random as a hard-pressed coach would mark them:
//! for measuring how often the analysis is right.

use rand::{Rng, SeedableRng};
use rand_chacha::ChaCha8Rng;
use umlauf_gait::Footfall;
use umlauf_gait::base::limb::{Limb, Side};

use crate::marking::{Marking, marked};
use crate::template::{TEMPLATES, Template};
use crate::truth::normal;

/// One stride of a ride's truth.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct TrueStride {
    /// First hind's footfall, s.
    pub start: f64,
    /// The next stride's.
    pub end: f64,
    /// Lead of the hinds.
    pub hind: Side,
    /// Lead of the fores.
    pub fore: Side,
}

/// A ride: its truth and the marks made of it.
#[derive(Clone, Debug)]
pub struct Schooling {
    /// The template drawn.
    pub template: Template,
    /// Strides.
    pub strides: Vec<TrueStride>,
    /// Marks in the order in which they were made, numbered from 1.
    pub marks: Vec<Footfall>,
    /// The mark given to a wrong limb: its number and the limb it belongs to.
    pub wrong: Option<(usize, Limb)>,
}

/// A template of a name varied as horses vary: T ±8 %, phases ±0.02, duty ±0.03.
pub fn varied(name: &str, rng: &mut ChaCha8Rng) -> Template {
    let mut t = *Template::named(name).unwrap_or(&TEMPLATES[0]);
    t.stride_s *= rng.random_range(0.92..1.08);
    for p in &mut t.phases {
        *p += rng.random_range(-0.02..0.02);
    }
    t.duty += rng.random_range(-0.03..0.03);
    t
}

/// Rides a template with leads given stride by stride (`left lead` is the template's own; in
/// symmetrical gaits they do not matter), and marks it.
pub fn ride(
    template: Template,
    leads: &[(Side, Side)],
    marking: &Marking,
    rng: &mut ChaCha8Rng,
) -> Schooling {
    let n = leads.len();
    let asymmetrical = template.carriage.heaves < 1.5;
    let fresh = (1.0 - marking.serial * marking.serial).sqrt();
    let mut start = rng.random_range(0.0..2.0);
    let mut deviation = normal(rng) * marking.stride_cv;
    let mut strides = Vec::with_capacity(n);
    let mut marks = Vec::with_capacity(4 * n + 4);
    for (k, &(hind, fore)) in leads.iter().enumerate() {
        deviation = marking.serial * deviation + fresh * marking.stride_cv * normal(rng);
        let along = (f64::from(u32::try_from(k).unwrap_or(0)) + 0.5)
            / f64::from(u32::try_from(n).unwrap_or(1))
            - 0.5;
        let tempo = 1.0 + marking.drift * along;
        let t = template.stride_s / tempo * (1.0 + deviation);
        strides.push(TrueStride { start, end: start + t, hind, fore });
        for limb in Limb::ALL {
            let lead = if limb.is_hind() { hind } else { fore };
            // Templates of canter are on the left lead.
            let own = if asymmetrical && lead == Side::Right { limb.opposite() } else { limb };
            let on = start + template.phases[own.index()] * t;
            marks.push((limb, on, on + template.duty * t));
        }
        start += t;
    }
    // The hind that begins the next stride ends the last one.
    if let Some(&(hind, _)) = leads.last() {
        let first = first_hind(&template, asymmetrical, hind);
        marks.push((first, start, start + template.duty * template.stride_s));
    }
    let (marks, wrong) = marked(marks, marking, rng);
    Schooling { template, strides, marks, wrong }
}

fn first_hind(template: &Template, asymmetrical: bool, lead: Side) -> Limb {
    // A varied phase may lie a little before 0.
    let (left, right) = (template.phases[Limb::LH.index()], template.phases[Limb::RH.index()]);
    let first = if left < right { Limb::LH } else { Limb::RH };
    if asymmetrical && lead == Side::Right { first.opposite() } else { first }
}

/// A generator for one run of one row.
pub fn rng(row: u64, run: u64) -> ChaCha8Rng {
    ChaCha8Rng::seed_from_u64(row.wrapping_mul(1_000_003).wrapping_add(run))
}
