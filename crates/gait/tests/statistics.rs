//! The core's statistics against NumPy and SciPy (`fixtures/statistics.py`).
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

use serde_json::Value;
use umlauf_gait::base::phase;
use umlauf_gait::season::coach_agreement;
use umlauf_gait::season::tally::Tally;
use umlauf_gait::stats::share::wilson;
use umlauf_gait::stats::shrunk::{Measured, shrunk};
use umlauf_gait::stats::{descriptive, quantiles, trend, two_samples};

fn fixture() -> Value {
    serde_json::from_str(include_str!("fixtures/statistics.json")).unwrap()
}

fn numbers(v: &Value) -> Vec<f64> {
    v.as_array().unwrap().iter().map(|x| x.as_f64().unwrap()).collect()
}

fn close(a: f64, b: &Value) {
    let b = b.as_f64().unwrap();
    assert!((a - b).abs() <= 1e-9 * b.abs().max(1.0), "{a} is not {b}");
}

#[test]
fn circular_means_and_resultants_equal_scipys() {
    for case in fixture()["circular"].as_array().unwrap() {
        let phases = numbers(&case["phases"]);
        let apart = phase::signed(phase::mean(&phases).unwrap() - case["mean"].as_f64().unwrap());
        assert!(apart.abs() < 1e-9, "{apart}");
        close(phase::resultant(&phases), &case["resultant"]);
    }
    // A plain mean of these would be 0.5.
    assert!(phase::signed(phase::mean(&[0.98, 0.02]).unwrap()).abs() < 1e-12);
    assert_eq!(phase::mean(&[0.0, 0.5]), None);
}

#[test]
fn spreads_and_lag_covariances_equal_numpys() {
    for case in fixture()["series"].as_array().unwrap() {
        let values = numbers(&case["values"]);
        close(descriptive::mean(&values), &case["mean"]);
        close(descriptive::variance(&values), &case["variance"]);
        close(descriptive::lag1_covariance(&values), &case["lag1_covariance"]);
        let r = descriptive::lag1_covariance(&values) / descriptive::variance(&values);
        let n = descriptive::effective_n(values.len(), r.clamp(0.0, 0.8));
        close(n, &case["effective_n"]);
    }
}

#[test]
fn quantiles_equal_scipys() {
    let all = fixture();
    for case in all["t975"].as_array().unwrap() {
        close(quantiles::t95(case["dof"].as_f64().unwrap()), &case["t"]);
    }
    for case in all["chi2"].as_array().unwrap() {
        let (dof, p) = (case["dof"].as_f64().unwrap(), case["p"].as_f64().unwrap());
        close(quantiles::chi_squared_quantile(dof, p).unwrap(), &case["x"]);
    }
}

#[test]
fn theil_sen_slopes_and_their_intervals_equal_scipys() {
    for case in fixture()["slopes"].as_array().unwrap() {
        let (x, y) = (numbers(&case["x"]), numbers(&case["y"]));
        let found = trend::sen(&x, &y).unwrap();
        close(found.value, &case["slope"]);
        close(found.lo, &case["lo"]);
        close(found.hi, &case["hi"]);
        // The interval in use is never narrower than the one for independent values.
        let wide = trend::theil_sen(&x, &y).unwrap();
        assert!(wide.lo <= found.lo + 1e-12 && wide.hi >= found.hi - 1e-12);
    }
    assert_eq!(trend::sen(&[1.0, 1.0, 1.0], &[1.0, 2.0, 3.0]), None);
}

#[test]
fn true_values_behind_measured_ones_are_those_of_the_whole_matrix() {
    let all: Value = serde_json::from_str(include_str!("fixtures/shrunk.json")).unwrap();
    for case in all["cases"].as_array().unwrap() {
        let (at, values) = (numbers(&case["at"]), numbers(&case["values"]));
        let errors = numbers(&case["errors"]);
        let of = |k: usize| Measured { at: at[k], value: values[k], error: errors[k] };
        let measured: Vec<Measured> = (0..at.len()).map(of).collect();
        let found = shrunk(&measured, case["usual"].as_f64().unwrap()).unwrap();
        for (k, truth) in case["truths"].as_array().unwrap().iter().enumerate() {
            let truth = numbers(truth);
            let apart = (truth[2] - truth[1]) / 100.0;
            assert!((found.value(k) - truth[0]).abs() < apart, "{} {truth:?}", found.value(k));
            assert!((found.ci95(k).0 - truth[1]).abs() < apart, "{:?} {truth:?}", found.ci95(k));
            assert!((found.ci95(k).1 - truth[2]).abs() < apart, "{:?} {truth:?}", found.ci95(k));
        }
    }
    let far = Measured { at: f64::NAN, value: 1.0, error: 1.0 };
    assert_eq!(shrunk(&[far, far], 1.0), None);
}

#[test]
fn the_chance_of_a_trend_is_kendalls() {
    let text = include_str!("fixtures/kendall.json");
    let all: Value = serde_json::from_str(text).unwrap();
    for kind in ["exact", "permuted"] {
        for case in all[kind].as_array().unwrap() {
            let (x, y) = (numbers(&case["x"]), numbers(&case["y"]));
            let (found, p) = (trend::sen(&x, &y).unwrap().p, case["p"].as_f64().unwrap());
            // The normal stands for a distribution of whole steps.
            assert!((found - p).abs() < 0.006 + 0.15 * p, "{kind} {found} {p}");
        }
    }
}

#[test]
fn the_chance_of_a_measured_trend_is_that_of_a_line_among_values_alike() {
    let all: Value = serde_json::from_str(include_str!("fixtures/trend.json")).unwrap();
    for case in all["cases"].as_array().unwrap() {
        let (x, y) = (numbers(&case["x"]), numbers(&case["y"]));
        let (found, p) = (trend::theil_sen(&x, &y).unwrap().p, case["p"].as_f64().unwrap());
        assert!((found - p).abs() < 1e-9 + 1e-6 * p, "{found} {p}");
    }
    // One session gone wrong makes no trend of eleven that have none, be it the last.
    let x: Vec<f64> = (0..12).map(f64::from).collect();
    let mut y = vec![0.1, -0.2, 0.15, 0.0, -0.1, 0.22, -0.15, 0.05, -0.05, 0.12, -0.12, 3.0];
    assert!(trend::theil_sen(&x, &y).unwrap().p > 0.05);
    // Shares are counted in steps: their chance is Kendall's.
    y = vec![0.6, 0.8, 0.6, 0.8, 1.0, 0.8, 1.0, 1.0, 1.0, 1.0, 1.0, 1.0];
    let share = trend::theil_sen(&x, &y).unwrap().p;
    let plain = trend::sen(&x, &y).unwrap().p;
    assert!(share >= plain && share < 10.0 * plain, "{share} {plain}");
}

#[test]
fn welch_differences_equal_scipys() {
    let all = fixture();
    for case in all["welch"].as_array().unwrap() {
        let found = two_samples::welch(&numbers(&case["a"]), &numbers(&case["b"])).unwrap();
        close(found.value, &case["difference"]);
        close(found.dof, &case["dof"]);
        close(found.p, &case["p"]);
        close(found.ci95.0, &case["lo"]);
        close(found.ci95.1, &case["hi"]);
    }
    for case in all["holm"].as_array().unwrap() {
        let adjusted = two_samples::holm(&numbers(&case["p"]));
        for (a, b) in adjusted.iter().zip(case["adjusted"].as_array().unwrap()) {
            close(*a, b);
        }
    }
    assert_eq!(two_samples::welch(&[1.0], &[1.0, 2.0]), None);
}

#[test]
fn a_covariate_is_taken_out_as_numpys_least_squares_does() {
    let all = fixture();
    for case in all["covariate"].as_array().unwrap() {
        let pairs = |key: &str| -> Vec<(f64, f64)> {
            case[key].as_array().unwrap().iter().map(numbers).map(|p| (p[0], p[1])).collect()
        };
        let found = two_samples::at_one_covariate(&pairs("a"), &pairs("b")).unwrap();
        close(found.value, &case["difference"]);
        close(found.se, &case["se"]);
        close(found.ci95.0, &case["lo"]);
        close(found.ci95.1, &case["hi"]);
        close(found.p, &case["p"]);
        close(two_samples::smallest_shown(&found), &case["smallest"]);
    }
    let flat = [(3.6, 1.0), (3.6, 2.0), (3.6, 3.0)];
    assert_eq!(two_samples::at_one_covariate(&flat, &flat), None);
}

#[test]
fn shares_have_scipys_wilson_intervals() {
    for case in fixture()["wilson"].as_array().unwrap() {
        let n = case["n"].as_u64().unwrap() as usize;
        let k = case["k"].as_u64().unwrap() as usize;
        let values: Vec<f64> = (0..n).map(|i| if i < k { 1.0 } else { 0.0 }).collect();
        let (lo, hi) = wilson(k as f64 / n as f64, n);
        close(lo, &case["lo"]);
        close(hi, &case["hi"]);
        let figure = Tally::Changes.of(&values).unwrap();
        assert_eq!(figure.ci95, Some((100.0 * lo, 100.0 * hi)));
    }
    assert_eq!(Tally::Answer.of(&[]), None);
    // One answer has no spread to be judged by.
    assert_eq!(Tally::Answer.of(&[1.2]).unwrap().ci95, None);
}

#[test]
fn the_coachs_marks_lie_apart_as_scipys_paired_test_says() {
    for case in fixture()["paired"].as_array().unwrap() {
        let (coach, curve) = (numbers(&case["coach"]), numbers(&case["curve"]));
        let pairs: Vec<(f64, f64)> = coach.into_iter().zip(curve).collect();
        let apart = coach_agreement::agreement(&pairs).unwrap();
        close(apart.value, &case["apart"]);
        let (lo, hi) = apart.ci95.unwrap();
        close(lo, &case["lo"]);
        close(hi, &case["hi"]);
        assert_eq!(coach_agreement::agreement(&pairs[..2]), None);
    }
}
