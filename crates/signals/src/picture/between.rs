//! Values between the pixels of a picture by straight lines, many at once: in rows of numbers, so that a compiler does
//! several side by side.

use crate::number::{nearest, place_of};

/// Places that are looked at together.
pub const BLOCK: usize = 64;

/// One number of every place.
pub type Row = [f32; BLOCK];

/// Where places lie among the pixels of a picture.
pub struct Between {
    /// The pixel to the left and above.
    from: [u32; BLOCK],
    /// How far right of it and below, pixels.
    right: Row,
    down: Row,
    /// One where a place lies between the middles of the picture's pixels, nothing elsewhere.
    pub inside: Row,
}

impl Between {
    /// For places in a picture so wide and high, pixels.
    #[expect(clippy::cast_precision_loss, reason = "pixels")]
    pub fn of(x: &Row, y: &Row, (width, height): (usize, usize)) -> Self {
        let (wide, last_x, last_y) = (width as f32, width as f32 - 1.0, height as f32 - 1.0);
        let (mut from, mut inside) = ([0; BLOCK], [0.0; BLOCK]);
        let (mut right, mut down) = ([0.0; BLOCK], [0.0; BLOCK]);
        for k in 0..BLOCK {
            let (x, y) = (x[k], y[k]);
            let is_in = (x >= 0.0) & (y >= 0.0) & (x <= last_x) & (y <= last_y);
            let (x, y) = if is_in { (x, y) } else { (0.0, 0.0) };
            inside[k] = if is_in { 1.0 } else { 0.0 };
            // Half-way from −½ to ½ both will do: a place on a pixel has the same value from either side.
            let (left, above) = (nearest(x - 0.5).max(0.0), nearest(y - 0.5).max(0.0));
            (right[k], down[k]) = (x - left, y - above);
            from[k] = place_of(above * wide + left);
        }
        Self { from, right, down, inside }
    }

    /// The values there of a picture of that size, row by row; of no meaning outside of it.
    pub fn bytes(&self, pixels: &[u8], width: usize) -> Row {
        // Four pixels in one number: they are parted many at once.
        let mut four = [0u32; BLOCK];
        for (four, from) in four.iter_mut().zip(&self.from) {
            if let Some(near) = pixels.get(*from as usize..).and_then(|n| n.get(..width + 2)) {
                *four = u32::from_le_bytes([near[0], near[1], near[width], near[width + 1]]);
            }
        }
        let corner = |bits: u32| -> Row {
            #[expect(clippy::cast_possible_truncation, reason = "a byte")]
            std::array::from_fn(|k| f32::from((four[k] >> bits) as u8))
        };
        self.by_corners(&[corner(0), corner(8), corner(16), corner(24)])
    }

    /// As [`Between::bytes`], of any numbers.
    pub fn numbers(&self, pixels: &[f32], width: usize) -> Row {
        let mut corners = [[0.0f32; BLOCK]; 4];
        for (k, from) in self.from.iter().enumerate() {
            if let Some(near) = pixels.get(*from as usize..).and_then(|n| n.get(..width + 2)) {
                corners[0][k] = near[0];
                corners[1][k] = near[1];
                corners[2][k] = near[width];
                corners[3][k] = near[width + 1];
            }
        }
        self.by_corners(&corners)
    }

    fn by_corners(&self, [p, q, r, s]: &[Row; 4]) -> Row {
        std::array::from_fn(|k| {
            let above = p[k] + self.right[k] * (q[k] - p[k]);
            let below = r[k] + self.right[k] * (s[k] - r[k]);
            above + self.down[k] * (below - above)
        })
    }
}
