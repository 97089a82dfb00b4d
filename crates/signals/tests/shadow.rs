//! Shadows on the ground: told from limbs, and lifted.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

use umlauf_signals::picture::shadow::{Shares, share};

/// A row of ground of grain: lit, with a stretch in a shadow that leaves 0.7 of the light, and narrow dark limbs.
fn row(shadow: std::ops::Range<usize>, seed: usize) -> Vec<f32> {
    (0..300)
        .map(|x| {
            let grain = ((x * 7919 + seed * 104_729) % 17) as f32;
            let (behind, noise) = (140.0 + grain, ((x * 31 + seed * 17) % 7) as f32 - 3.0);
            let value = if [40, 120, 200, 260].iter().any(|limb| (*limb..limb + 14).contains(&x)) {
                70.0
            } else if shadow.contains(&x) {
                0.7 * behind
            } else {
                behind
            };
            share(value + noise, behind)
        })
        .collect()
}

#[test]
fn a_shadow_is_what_lies_far_along_the_ground_and_limbs_are_none() {
    let counted = |shadow: std::ops::Range<usize>| {
        let mut shares = Shares::default();
        (0..40).for_each(|seed| shares.take(&row(shadow.clone(), seed), 32));
        shares.shadow()
    };
    assert_eq!(counted(0..0), None);
    let shadow = counted(60..180).unwrap();
    assert!((0.6..0.7).contains(&shadow.darkest), "{shadow:?}");
    // Ground in the shadow and on its edge is as it is lit; a hoof stays what it is; what is lighter as well.
    for (value, lifted) in
        [(0.7 * 150.0, 150.0), (0.85 * 150.0, 150.0), (70.0, 70.0), (190.0, 190.0)]
    {
        let told = shadow.lifted(value, 150.0);
        assert!((told - lifted).abs() < 0.5, "{value}: {told}");
    }
    // Of ground that is black nothing is known.
    assert!(share(3.0, 5.0).is_nan() && (shadow.lifted(3.0, 5.0) - 3.0).abs() < 1e-6);
}
