//! Gait templates: the numbers a synthetic horse is drawn from.
//!
//! Phases and duty factors are project defaults consistent with the published stride tables
//! (Clayton 1994, Equine Vet J 26:230 and Suppl 17:16; Clayton 1995, Am J Vet Res 56:849; values
//! from memory).

/// One gait: timing, travel and how the body carries itself. Lengths in withers heights h.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Template {
    /// Name used on the command line.
    pub name: &'static str,
    /// Stride duration, s.
    pub stride_s: f64,
    /// Speed over the ground, m/s.
    pub speed: f64,
    /// Phases of LF, RF, LH, RH.
    pub phases: [f64; 4],
    /// Stance share of every limb.
    pub duty: f64,
    /// How the body moves.
    pub carriage: Carriage,
}

/// The movement of trunk, head and limbs over one stride.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Carriage {
    /// Rises and falls of the trunk in a stride.
    pub heaves: f64,
    /// Half the height of one rise, h.
    pub heave: f64,
    /// Phase of the lowest point.
    pub lowest: f64,
    /// Rocking of the trunk, degrees either way (forehand up positive).
    pub pitch_deg: f64,
    /// Phase at which the forehand is highest.
    pub forehand_up: f64,
    /// Nods of head and neck in a stride.
    pub nods: f64,
    /// Half the angle of a nod, degrees.
    pub nod_deg: f64,
    /// Phase of the lowest head.
    pub nod_low: f64,
    /// Highest point of a hoof in swing, h.
    pub lift: f64,
    /// How far the fetlock folds in swing, 0 to 1.
    pub fold: f64,
    /// Angle of the neck above the horizontal, degrees.
    pub neck_deg: f64,
    /// Nose in front of the vertical, degrees.
    pub nose_deg: f64,
    /// The rider rises and sits once a stride.
    pub posting: bool,
}

const WALK: Carriage = Carriage {
    heaves: 2.0,
    heave: 0.006,
    lowest: 0.12,
    pitch_deg: 0.6,
    forehand_up: 0.4,
    nods: 2.0,
    nod_deg: 5.0,
    nod_low: 0.30,
    lift: 0.055,
    fold: 0.62,
    neck_deg: 36.0,
    nose_deg: 27.0,
    posting: false,
};

const TROT: Carriage = Carriage {
    heaves: 2.0,
    heave: 0.020,
    lowest: 0.20,
    pitch_deg: 0.8,
    forehand_up: 0.1,
    nods: 2.0,
    nod_deg: 1.0,
    nod_low: 0.28,
    lift: 0.10,
    fold: 0.95,
    neck_deg: 43.0,
    nose_deg: 15.0,
    posting: true,
};

const CANTER: Carriage = Carriage {
    heaves: 1.0,
    heave: 0.030,
    lowest: 0.44,
    pitch_deg: 5.0,
    forehand_up: 0.12,
    nods: 1.0,
    nod_deg: 4.5,
    nod_low: 0.62,
    lift: 0.12,
    fold: 1.0,
    neck_deg: 45.0,
    nose_deg: 16.0,
    posting: false,
};

/// The templates. Canters and gallop are on the left lead; [`Template::mirrored`] gives the right.
pub const TEMPLATES: &[Template] = &[
    walk("walk-collected", 1.146, 1.37),
    walk("walk", 1.081, 1.73),
    walk("walk-extended", 1.060, 1.82),
    trot("trot-collected", 0.781, 3.20, 0.02, 0.45),
    trot("trot", 0.756, 3.61, 0.01, 0.42),
    trot("trot-medium", 0.729, 4.47, 0.01, 0.40),
    trot("trot-extended", 0.720, 4.93, 0.01, 0.38),
    Template {
        carriage: Carriage { lift: 0.17, heave: 0.026, neck_deg: 50.0, nose_deg: 8.0, ..TROT },
        ..trot("passage", 1.09, 1.60, 0.03, 0.45)
    },
    Template {
        carriage: Carriage {
            lift: 0.14,
            heave: 0.010,
            neck_deg: 52.0,
            nose_deg: 6.0,
            posting: false,
            ..TROT
        },
        ..trot("piaffe", 1.08, 0.10, 0.04, 0.53)
    },
    canter("canter-collected", 0.612, 3.27, [0.53, 0.31, 0.27, 0.0], 0.44),
    canter("canter", 0.60, 4.20, [0.48, 0.26, 0.25, 0.0], 0.40),
    canter("canter-four-beat", 0.66, 2.90, [0.60, 0.38, 0.27, 0.0], 0.47),
    canter("canter-extended", 0.581, 5.97, [0.45, 0.23, 0.23, 0.0], 0.36),
    canter("gallop", 0.48, 9.5, [0.54, 0.36, 0.16, 0.0], 0.27),
    lateral("flat-walk", 0.98, 1.9, 0.22, 0.60),
    lateral("running-walk", 0.78, 3.0, 0.22, 0.55),
    lateral("stepping-pace", 0.80, 3.2, 0.14, 0.52),
    lateral("fox-trot", 0.76, 2.9, 0.37, 0.54),
    lateral("rack", 0.56, 4.6, 0.25, 0.44),
    lateral("pace", 0.70, 4.0, 0.02, 0.42),
];

/// A symmetrical gait by its lateral advanced placement; a head that nods with each fore.
const fn lateral(name: &'static str, stride_s: f64, speed: f64, lap: f64, duty: f64) -> Template {
    let carriage = Carriage { lift: 0.09, fold: 0.8, neck_deg: 46.0, nose_deg: 20.0, ..WALK };
    Template { name, stride_s, speed, phases: [lap, 0.5 + lap, 0.0, 0.5], duty, carriage }
}

const fn walk(name: &'static str, stride_s: f64, speed: f64) -> Template {
    Template { name, stride_s, speed, phases: [0.24, 0.74, 0.0, 0.5], duty: 0.63, carriage: WALK }
}

const fn trot(name: &'static str, stride_s: f64, speed: f64, dap: f64, duty: f64) -> Template {
    let phases = [0.5 + dap, dap, 0.0, 0.5];
    Template { name, stride_s, speed, phases, duty, carriage: TROT }
}

const fn canter(
    name: &'static str,
    stride_s: f64,
    speed: f64,
    phases: [f64; 4],
    duty: f64,
) -> Template {
    Template { name, stride_s, speed, phases, duty, carriage: CANTER }
}

impl Template {
    /// The template of this name.
    pub fn named(name: &str) -> Option<&'static Self> {
        TEMPLATES.iter().find(|t| t.name == name)
    }

    /// The mirror image: left and right limbs change places.
    #[must_use]
    pub fn mirrored(mut self) -> Self {
        self.phases = [self.phases[1], self.phases[0], self.phases[3], self.phases[2]];
        self
    }

    /// Metres covered in one stride.
    pub fn stride_length(&self) -> f64 {
        self.speed * self.stride_s
    }
}
