//! A session from the analyses of its clips: what was ridden on which rein, and what matters most.

use std::mem::discriminant;

use statrs::distribution::{ContinuousCDF, StudentsT};

use crate::analysis::analyse::Analysis;
use crate::base::gait::Label;
use crate::base::limb::Side;
use crate::base::number::count;
use crate::findings::kind::Kind;
use crate::season::looked_for::{looked_for, stands};
use crate::season::meaning::{beyond, meaning};
use crate::stats::descriptive::{mean, variance};
use crate::stats::estimate::Estimate;

/// What was ridden of one gait and lead on one rein.
#[derive(Clone, Debug, PartialEq)]
pub struct RiddenLine {
    /// Rein, when it was said.
    pub rein: Option<Side>,
    /// Gait and leads.
    pub label: Label,
    /// Bouts.
    pub bouts: usize,
    /// Strides.
    pub strides: usize,
    /// Time, s.
    pub length_s: f64,
    /// Tempo, strides/min: the bout's own when there is one, else the mean of the bouts' means with
    /// Student's interval from their spread, which holds what differs from bout to bout.
    pub tempo: Option<Estimate>,
}

/// Everything ridden, most strides first.
pub fn ridden(clips: &[Analysis]) -> Vec<RiddenLine> {
    let mut out: Vec<(RiddenLine, Vec<Estimate>)> = Vec::new();
    for bout in clips.iter().flat_map(|a| &a.bouts).filter(|b| b.strides > 0) {
        let same =
            |r: &&mut (RiddenLine, Vec<Estimate>)| r.0.rein == bout.rein && r.0.label == bout.label;
        let line = match out.iter_mut().find(same) {
            Some(line) => line,
            None => {
                let (rein, label) = (bout.rein, bout.label);
                let new =
                    RiddenLine { rein, label, bouts: 0, strides: 0, length_s: 0.0, tempo: None };
                out.push((new, Vec::new()));
                let last = out.len() - 1;
                &mut out[last]
            }
        };
        line.0.bouts += 1;
        line.0.strides += bout.strides;
        line.0.length_s += bout.end_s - bout.start_s;
        line.1.extend(bout.tempo.map(|t| t.tempo));
    }
    let mut out: Vec<RiddenLine> =
        out.into_iter().map(|(r, tempi)| RiddenLine { tempo: together(&tempi), ..r }).collect();
    out.sort_by_key(|r| std::cmp::Reverse(r.strides));
    out
}

fn together(bouts: &[Estimate]) -> Option<Estimate> {
    if let [one] = bouts {
        return Some(*one);
    }
    let means: Vec<f64> = bouts.iter().map(|b| b.value).collect();
    let n = means.len();
    let student = StudentsT::new(0.0, 1.0, count(n.checked_sub(1)?)).ok()?;
    let half = student.inverse_cdf(0.975) * (variance(&means) / count(n)).sqrt();
    let value = mean(&means);
    let ci95 = Some((value - half, value + half));
    Some(Estimate { value, sd: Some(variance(&means).sqrt()), ci95, n })
}

/// A fault that matters.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Matter {
    /// Place of its analysis.
    pub analysis: usize,
    /// Place of the finding in it.
    pub finding: usize,
    /// In how many places of the session the same was found.
    pub times: usize,
}

/// At most three faults, each kind once: those that stand when everything that was looked for is
/// counted, by what they mean for the horse and how far they go beyond their error. A plain fact never
/// matters most; nothing is an answer.
pub fn matters(clips: &[Analysis]) -> Vec<Matter> {
    const MOST: usize = 3;
    let looks = looked_for(clips);
    let mut ranked: Vec<(f64, usize, usize, &Kind)> = Vec::new();
    for (a, clip) in clips.iter().enumerate() {
        for (f, finding) in clip.findings.iter().enumerate() {
            let weight = meaning(&finding.kind);
            if weight > 0.0 && stands(&looks, clips, a, f) {
                let rank = weight * beyond(finding, clip);
                ranked.push((rank, a, f, &finding.kind));
            }
        }
    }
    // What is as grave keeps the order in which it was ridden.
    ranked.sort_by(|x, y| y.0.total_cmp(&x.0));
    let mut out: Vec<Matter> = Vec::new();
    let mut seen = Vec::new();
    for (_, analysis, finding, kind) in &ranked {
        let same = |of: &Kind| discriminant(of) == discriminant(*kind);
        if out.len() < MOST && !seen.contains(&discriminant(*kind)) {
            seen.push(discriminant(*kind));
            let times = ranked.iter().filter(|(.., k)| same(k)).count();
            out.push(Matter { analysis: *analysis, finding: *finding, times });
        }
    }
    out
}
