//! What each horse of the season rides, session by session.

use rand_chacha::ChaCha8Rng;
use umlauf_gait::base::limb::Side;
use umlauf_synth::template::{TEMPLATES, Template};
use umlauf_synth::truth::normal;

/// Sessions of a horse.
pub const SESSIONS: u32 = 12;

/// One bout of a session.
pub struct StoryBout {
    pub template: Template,
    /// Gait and variant in the coach's words.
    pub gait: &'static str,
    pub variant: Option<&'static str>,
    pub movement: &'static str,
    pub strides: usize,
    pub stride_cv: f64,
    pub rein: Side,
    /// Leads stride by stride, for a canter with changes.
    pub leads: Option<Vec<(Side, Side)>>,
    /// Another gait, asked for on the way.
    pub asked: Option<Asked>,
}

/// A gait asked for on the way.
pub struct Asked {
    /// In the coach's words.
    pub gait: &'static str,
    pub template: Template,
    /// From which stride on it is gone.
    pub stride: usize,
    /// Strides from the aid to it.
    pub answer: f64,
}

/// A horse's story: days of its sessions before the last, and what is ridden in each.
pub struct Story {
    pub horse: &'static str,
    pub withers_m: f64,
    pub gaited: bool,
    /// Days before the last session, first to last; like the bouts with the strength of the story,
    /// 0 for none.
    pub days: fn(u32, f64) -> i64,
    pub bouts: fn(u32, f64, &mut ChaCha8Rng) -> Vec<StoryBout>,
    pub note: &'static str,
}

/// The season's stories.
pub const STORIES: &[Story] = &[
    Story {
        horse: "Priel",
        withers_m: 1.68,
        gaited: false,
        days: weekly,
        bouts: young,
        note: "Young horse: trot on both reins, straight lines.",
    },
    Story {
        horse: "Bernsteen",
        withers_m: 1.70,
        gaited: false,
        days: weekly,
        bouts: schoolmaster,
        note: "Canter, then five changes every fourth stride on the diagonal.",
    },
    Story {
        horse: "Distel",
        withers_m: 1.62,
        gaited: false,
        days: with_lay_off,
        bouts: returning,
        note: "Trot and canter, both reins.",
    },
    Story {
        horse: "Queller",
        withers_m: 1.52,
        gaited: true,
        days: weekly,
        bouts: gaited,
        note: "Flat walk on long lines.",
    },
    Story {
        horse: "Tinne",
        withers_m: 1.64,
        gaited: false,
        days: weekly,
        bouts: left_lags,
        note: "Working trot, both reins.",
    },
];

fn weekly(k: u32, _: f64) -> i64 {
    7 * i64::from(SESSIONS - 1 - k)
}

/// Seven weeks without work after the fifth session.
fn with_lay_off(k: u32, told: f64) -> i64 {
    weekly(k, told) + if k < 5 && told > 0.0 { 42 } else { 0 }
}

fn template(name: &str) -> Template {
    Template::named(name).copied().unwrap_or(TEMPLATES[0])
}

/// A template as this horse goes it today: tempo and stride length times something, with what
/// differs from bout to bout.
fn today(name: &str, tempo: f64, length: f64, rng: &mut ChaCha8Rng) -> Template {
    let t = template(name);
    let stride_s = t.stride_s / tempo / (1.0 + 0.010 * normal(rng));
    let length = t.stride_length() * length * (1.0 + 0.015 * normal(rng));
    Template { stride_s, speed: length / stride_s, ..t }
}

fn bout(template: Template, gait: &'static str, rein: Side, strides: usize, cv: f64) -> StoryBout {
    StoryBout {
        template,
        gait,
        variant: (gait == "trot" || gait == "canter").then_some("working"),
        movement: "straight",
        strides,
        stride_cv: cv,
        rein,
        leads: None,
        asked: None,
    }
}

/// Both.
pub const REINS: [Side; 2] = [Side::Left, Side::Right];

/// Three trots a rein; the spread of stride durations falls from 5.5 to 1.8 %.
fn young(k: u32, told: f64, rng: &mut ChaCha8Rng) -> Vec<StoryBout> {
    let share = told * f64::from(k) / f64::from(SESSIONS - 1);
    let cv = 0.055 - 0.037 * share;
    let each = |rein: Side, rng: &mut ChaCha8Rng| {
        bout(today("trot", 1.0, 0.96, rng), "trot", rein, 16, cv)
    };
    let mut out: Vec<StoryBout> =
        REINS.iter().flat_map(|r| [*r; 3]).map(|r| each(r, rng)).collect();
    // From walk to trot: the answer comes 2.6 strides after the aid at first, 0.9 at the end.
    for rein in REINS {
        let answer = 2.6 - 1.7 * share + 0.15 * normal(rng);
        let asked =
            Asked { gait: "trot", template: today("trot", 1.0, 0.96, rng), stride: 6, answer };
        out.push(StoryBout {
            variant: None,
            movement: "transitions",
            asked: Some(asked),
            ..bout(today("walk", 1.0, 1.0, rng), "", rein, 14, 0.02)
        });
    }
    out
}

/// A canter a rein, and five four-tempi; until the seventh session the third is late behind.
fn schoolmaster(k: u32, told: f64, rng: &mut ChaCha8Rng) -> Vec<StoryBout> {
    let mut out: Vec<StoryBout> = REINS
        .iter()
        .flat_map(|r| [*r; 2])
        .map(|r| bout(today("canter", 1.0, 1.0, rng), "canter", r, 14, 0.014))
        .collect();
    let mut leads = Vec::new();
    for change in 0..=5u32 {
        let lead = if change % 2 == 0 { Side::Left } else { Side::Right };
        let late = change == 3 && k < 7 && told > 0.0;
        let strides = if change == 0 || change == 5 { 5 } else { 4 };
        for s in 0..strides {
            let hind = if late && s == 0 { lead.opposite() } else { lead };
            leads.push((hind, lead));
        }
    }
    out.push(StoryBout {
        movement: "tempi-4x5",
        variant: None,
        strides: leads.len(),
        leads: Some(leads),
        ..bout(today("canter", 1.0, 1.0, rng), "canter", Side::Left, 0, 0.010)
    });
    out
}

/// Trot and canter a rein; after the pause 9 % shorter and the canter 4 % slower, then back.
fn returning(k: u32, told: f64, rng: &mut ChaCha8Rng) -> Vec<StoryBout> {
    let weak = if k < 5 { 0.0 } else { told * (1.0 - f64::from(k - 5) / 5.0).max(0.0) };
    let length = 1.0 - 0.09 * weak;
    let mut out = Vec::new();
    for rein in REINS {
        for _ in 0..2 {
            out.push(bout(today("trot", 1.0, length, rng), "trot", rein, 14, 0.016));
            let mut canter = today("canter", 1.0 - 0.04 * weak, length, rng);
            canter.duty += 0.02 * weak;
            out.push(bout(canter, "canter", rein, 14, 0.018));
        }
    }
    out
}

/// Four stretches of walk; in the later weeks some of them slip to stepping pace.
fn gaited(k: u32, told: f64, rng: &mut ChaCha8Rng) -> Vec<StoryBout> {
    let slips = if told > 0.0 { [0, 0, 0, 1, 0, 1, 1, 2, 1, 2, 2, 3][k as usize % 12] } else { 0 };
    (0..4)
        .map(|n| {
            let name = if n < slips { "stepping-pace" } else { "flat-walk" };
            let rein = REINS[n % 2];
            StoryBout {
                variant: None,
                movement: "straight",
                ..bout(today(name, 1.0, 1.0, rng), "", rein, 14, 0.015)
            }
        })
        .collect()
}

/// Three trots a rein; on the left 6 % shorter and with twice the spread. From the seventh session
/// on two shoulder-ins a rein before the third; in the last four the left one is 6 % slower.
fn left_lags(k: u32, told: f64, rng: &mut ChaCha8Rng) -> Vec<StoryBout> {
    let each = |rein: Side, rng: &mut ChaCha8Rng| {
        let left = if rein == Side::Left { told } else { 0.0 };
        let (length, cv) = (1.01 - 0.06 * left, 0.016 + 0.018 * left);
        bout(today("trot", 1.0, length, rng), "trot", rein, 16, cv)
    };
    let mut out: Vec<StoryBout> =
        REINS.iter().flat_map(|r| [*r; 3]).map(|r| each(r, rng)).collect();
    if k >= 6 {
        let thirds = [out.remove(5), out.remove(2)];
        for rein in REINS.iter().flat_map(|r| [*r; 2]) {
            let left = if rein == Side::Left { told } else { 0.0 };
            let (length, cv) = (0.99 - 0.06 * left, 0.016 + 0.014 * left);
            let tempo = if k >= 8 { 1.0 - 0.06 * left } else { 1.0 };
            let template = today("trot", tempo, length, rng);
            let inside = bout(template, "trot", rein, 12, cv);
            out.push(StoryBout { movement: "shoulder-in", ..inside });
        }
        out.extend(thirds);
    }
    out
}
