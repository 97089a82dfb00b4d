//! Intervals over few strides against a Bayesian grid in Python that takes another route
//! (`fixtures/wander.py`), and against each other from length to length.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

use serde_json::Value;
use umlauf_gait::base::usual::{self, Usual};
use umlauf_gait::stats::series::Series;
use umlauf_gait::stats::wander::{Wander, variance_of_mean, variance_of_sum};

fn number(v: &Value) -> f64 {
    v.as_f64().unwrap()
}

#[test]
fn intervals_are_those_of_the_whole_covariance_matrix() {
    let cases: Value = serde_json::from_str(include_str!("fixtures/wander.json")).unwrap();
    let cases = cases.as_array().unwrap();
    assert_eq!(cases.len(), 200);
    let mut worst = (0.0_f64, 0.0_f64);
    for case in cases {
        let values: Vec<f64> = case["values"].as_array().unwrap().iter().map(number).collect();
        let n = values.len();
        let u = &case["usual"];
        let usual = Usual {
            spread: number(&u["spread"]),
            log_sd: number(&u["log_sd"]),
            likeness: number(&u["likeness"]),
            likeness_sd: number(&u["likeness_sd"]),
        };
        let series = Series {
            values: &values,
            noise: number(&case["noise"]),
            shared: number(&case["shared"]),
            next: number(&case["ahead"]),
            detrended: false,
        };
        let wander = Wander::read(&series, &usual);
        let left = number(&case["left"]);
        let half = wander.half_width(0.95, |c| c.variance * variance_of_mean(n, c.likeness) + left);
        worst.0 = worst.0.max((half / number(&case["half"]) - 1.0).abs());
        for (k, p) in [0.025, 0.5, 0.975].into_iter().enumerate() {
            // The lower end may lie in the prior's far tail, where the marks hide everything.
            let far = (wander.spread_quantile(p) / number(&case["spread"][k])).ln().abs();
            worst.1 = worst.1.max(far);
        }
    }
    assert!(worst.0 < 0.05, "widths differ by up to {:.3}", worst.0);
    assert!(worst.1 < 0.10, "spreads differ by up to {:.3}", worst.1);
}

#[test]
fn variances_of_sums_are_those_written_out() {
    let weights = [0.3, -0.2, 0.7, 0.1, -0.4];
    for r in [-0.3, 0.0, 0.45, 0.8] {
        let mut all = 0.0;
        for (i, a) in weights.iter().enumerate() {
            for (j, b) in weights.iter().enumerate() {
                all += a * b * f64::powi(r, i32::try_from(i.abs_diff(j)).unwrap());
            }
        }
        assert!((variance_of_sum(weights.into_iter(), r) - all).abs() < 1e-12);
        let even = [0.2; 5];
        let mean = variance_of_sum(even.into_iter(), r);
        assert!((variance_of_mean(5, r) - mean).abs() < 1e-12);
    }
}

#[test]
fn nothing_but_the_usual_is_known_of_a_single_stride() {
    let one = Series { values: &[0.75], noise: 0.0, shared: 0.0, next: 0.0, detrended: false };
    let wander = Wander::read(&one, &usual::STRIDES);
    for (p, z) in [(0.025, -1.959_964), (0.5, 0.0), (0.975, 1.959_964)] {
        let prior = usual::STRIDES.spread * f64::exp(usual::STRIDES.log_sd * z);
        let found = wander.spread_quantile(p);
        assert!((found / prior - 1.0).abs() < 0.01, "{p}: {found} {prior}");
    }
    // A series of equal values ends the search, with and without errors of marks.
    let (long, none) = ([0.75; 3000], [0.0, 1e-6]);
    for noise in none {
        let same = Series { values: &long, noise, shared: -0.5, next: 0.4, detrended: false };
        let half = Wander::read(&same, &usual::STRIDES)
            .half_width(0.95, |c| c.variance * variance_of_mean(3000, c.likeness));
        assert!(half.is_finite() && half < 1e-4, "{half}");
    }
}
