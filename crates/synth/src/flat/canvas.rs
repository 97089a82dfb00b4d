//! Grey shapes with edges as soft as a lens makes them: how much of a pixel a shape covers is told by
//! how far the pixel lies from the shape's edge.

/// A picture in grey, 0 to 255, row by row from the top.
#[derive(Clone, Debug)]
pub struct Canvas {
    /// Pixels a row.
    pub width: usize,
    /// Rows.
    pub height: usize,
    /// Values.
    pub pixels: Vec<f32>,
    /// An edge is this wide, pixels.
    pub soft: f64,
    /// How much bluer and redder than grey, where the picture has colours.
    pub hues: Option<Vec<(f32, f32)>>,
    /// How much bluer and redder than grey what is painted next is.
    pub brush: (f32, f32),
}

/// What a shape is painted with.
#[derive(Clone, Copy, Debug)]
pub struct Paint {
    /// Grey value.
    pub tone: f64,
    /// How much of what lies behind it hides, 0 to 1.
    pub cover: f64,
    /// How much lighter its upper edge is than its lower.
    pub round: f64,
}

impl Paint {
    /// A tone that hides what lies behind.
    pub const fn full(tone: f64) -> Self {
        Self { tone, cover: 1.0, round: 22.0 }
    }
}

impl Canvas {
    /// An empty picture.
    pub fn new(width: usize, height: usize, soft: f64) -> Self {
        let pixels = vec![0.0; width * height];
        Self { width, height, pixels, soft, hues: None, brush: (0.0, 0.0) }
    }

    /// A bar with round ends, of other widths at its ends: `a` and `b` are x, y and radius.
    pub fn bar(&mut self, a: (f64, f64, f64), b: (f64, f64, f64), paint: Paint) {
        let reach = a.2.max(b.2) + self.soft;
        let left = a.0.min(b.0) - reach;
        let (dx, dy) = (b.0 - a.0, b.1 - a.1);
        let length = (dx * dx + dy * dy).max(1e-9);
        self.within(
            (left, a.1.min(b.1) - reach, a.0.max(b.0) + reach, a.1.max(b.1) + reach),
            |x, y| {
                let along = (((x - a.0) * dx + (y - a.1) * dy) / length).clamp(0.0, 1.0);
                let (px, py) = (a.0 + along * dx, a.1 + along * dy);
                let radius = a.2 + along * (b.2 - a.2);
                (far(x - px, y - py) - radius, (y - py) / radius.max(1e-9))
            },
            paint,
        );
    }

    /// An ellipse about a point, its long axis turned by an angle (clockwise, radians).
    pub fn ellipse(&mut self, at: (f64, f64), half: (f64, f64), turn: f64, paint: Paint) {
        let reach = half.0.max(half.1) + self.soft;
        let (s, c) = turn.sin_cos();
        self.within(
            (at.0 - reach, at.1 - reach, at.0 + reach, at.1 + reach),
            |x, y| {
                let (dx, dy) = (x - at.0, y - at.1);
                let (u, v) = ((c * dx + s * dy) / half.0, (c * dy - s * dx) / half.1);
                let r = far(u, v);
                // The distance from an ellipse, near its edge.
                let slope = far(u / half.0, v / half.1).max(1e-9);
                (if r < 1e-9 { -half.1 } else { (r - 1.0) * r / slope }, v)
            },
            paint,
        );
    }

    fn within(
        &mut self,
        (left, top, right, bottom): (f64, f64, f64, f64),
        shape: impl Fn(f64, f64) -> (f64, f64),
        paint: Paint,
    ) {
        #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "clamped")]
        let span = |from: f64, to: f64, most: usize| {
            let most = count(most);
            (from.floor().clamp(0.0, most) as usize, to.ceil().clamp(0.0, most) as usize)
        };
        let (x0, x1) = span(left, right, self.width);
        let (y0, y1) = span(top, bottom, self.height);
        let brush = self.brush;
        for y in y0..y1 {
            for x in x0..x1 {
                let (far, up) = shape(count(x), count(y));
                let cover = (0.5 - far / self.soft).clamp(0.0, 1.0) * paint.cover;
                if cover > 0.0 {
                    let tone = paint.tone - 0.5 * paint.round * up.clamp(-1.0, 1.0);
                    let pixel = &mut self.pixels[y * self.width + x];
                    #[expect(clippy::cast_possible_truncation, reason = "a grey value")]
                    let (cover, tone) = (cover as f32, tone as f32);
                    *pixel += cover * (tone - *pixel);
                    if let Some(hues) = &mut self.hues {
                        let hue = &mut hues[y * self.width + x];
                        hue.0 += cover * (brush.0 - hue.0);
                        hue.1 += cover * (brush.1 - hue.1);
                    }
                }
            }
        }
    }
}

/// The hypotenuse, of lengths that cannot overflow: called for every pixel of a shape.
fn far(x: f64, y: f64) -> f64 {
    (x * x + y * y).sqrt()
}

/// A small count as a number.
#[expect(clippy::cast_precision_loss, reason = "pixels and frames are few")]
pub(crate) const fn count(n: usize) -> f64 {
    n as f64
}
