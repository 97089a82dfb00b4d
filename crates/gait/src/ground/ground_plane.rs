//! The ground plane: four or more points of known place, clicked in a picture that stands still,
//! turn hoof clicks into metres. The map's own error and that of each click reach every figure.
//!
//! Points nearly in line, a mirror image and labels that were mixed up are caught: a map from
//! above keeps the order of turn, all points lie before the camera, and the map must belong to
//! a camera that can be.

use nalgebra::{Matrix2, SMatrix};

use crate::ground::arena::Place;
use crate::ground::camera::{self, CameraPose};
use crate::ground::homography::{Homography, Pixel};
use crate::ground::place_error::PlaceError;
use crate::ground::plane_checks::{
    Clicks, FLAT_SDS, Known, MOST, NEARLY_SDS, Refused, Warning, away, blame, can_be, doubt, fit,
    misfit, openness, possible, residuals,
};
use crate::stats::quantiles::chi_squared_quantile;

/// A ground plane.
#[derive(Clone, Debug, PartialEq)]
pub struct GroundPlane {
    /// The map.
    map: Homography,
    /// Standard deviation of a click, px.
    click_px: f64,
    /// Distance of each point from where the map puts it, px.
    pub residuals_px: Vec<f64>,
    /// Root mean square of the same over what is free; `None` with four points, which always fit.
    pub rms_px: Option<f64>,
    /// The camera, when the map tells.
    pub camera: Option<CameraPose>,
    /// What to look at again.
    pub warnings: Vec<Warning>,
}

impl GroundPlane {
    /// A ground plane from points.
    ///
    /// # Errors
    /// [`Refused`] when they make none.
    pub fn new(points: &[Known], clicks: Clicks) -> Result<Self, Refused> {
        let n = points.len();
        if n < 4 {
            return Err(Refused::TooFew(n));
        }
        if n > MOST {
            return Err(Refused::TooMany(n));
        }
        for (k, a) in points.iter().enumerate() {
            let same = |b: &&Known| away(a.seen, b.seen) < 1.0 || away(a.place, b.place) < 0.01;
            if let Some(b) = points[..k].iter().find(same) {
                return Err(Refused::Twice(b.name.clone(), a.name.clone()));
            }
        }
        let spread = openness(points, clicks);
        if spread < FLAT_SDS {
            return Err(Refused::InLine(points.iter().map(|p| p.name.clone()).collect()));
        }
        let map = fit(points, clicks).ok_or_else(|| blame(points, clicks))?;
        if !possible(&map, points, clicks) {
            return Err(blame(points, clicks));
        }
        let mut warnings = Vec::new();
        if spread < NEARLY_SDS {
            warnings.push(Warning::NearlyInLine);
        }
        let residuals_px = residuals(&map, points);
        let free = crate::base::number::count(2 * n) - 8.0;
        let chi2 = misfit(&map, points, clicks);
        let limit = if free > 0.0 { chi_squared_quantile(free, 0.999) } else { None };
        let misfits = limit.is_some_and(|limit| chi2 > limit);
        if misfits {
            warnings.push(doubt(points, clicks, &residuals_px));
        }
        let camera = map.matrix().and_then(|m| camera::pose(&m, clicks.size));
        let camera = camera.filter(|c| can_be(c, clicks));
        let rms = |sum: f64| (sum / free).sqrt();
        Ok(Self {
            rms_px: (free > 0.0).then(|| rms(residuals_px.iter().map(|r| r * r).sum())),
            map: if misfits { map.widened((chi2 / free).sqrt()) } else { map },
            click_px: clicks.sd_px,
            residuals_px,
            camera,
            warnings,
        })
    }

    /// The place on the ground that a pixel shows; `None` above the horizon.
    pub fn place(&self, pixel: Pixel) -> Option<Place> {
        self.map.to_ground(pixel)
    }

    /// The map.
    pub fn map(&self) -> &Homography {
        &self.map
    }

    /// Error of a place read from a click.
    pub fn error(&self, place: Place) -> Option<PlaceError> {
        let own: Matrix2<f64> = self.map.metres_per_pixel(place)? * self.click_px;
        let common: SMatrix<f64, 2, 8> = self.map.place_spread(place)?;
        Some(PlaceError {
            own: [[own[(0, 0)], own[(0, 1)]], [own[(1, 0)], own[(1, 1)]]],
            common: (0..8).map(|k| [common[(0, k)], common[(1, k)]]).collect(),
        })
    }

    /// Angle between the line of sight to a place and a way along `direction`, degrees 0–90, when
    /// the camera is known.
    pub fn view_angle_deg(&self, place: Place, direction: (f64, f64)) -> Option<f64> {
        let camera = self.camera?;
        let sight = (place.0 - camera.at.0, place.1 - camera.at.1);
        let cross = (sight.0 * direction.1 - sight.1 * direction.0).abs();
        let along = (sight.0 * direction.0 + sight.1 * direction.1).abs();
        Some(cross.atan2(along).to_degrees())
    }
}
