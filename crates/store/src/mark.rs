//! A mark, and a change of one.

use serde::{Deserialize, Serialize};
use umlauf_gait::base::limb::Limb;

use crate::origin::Origin;
use crate::person::Person;

/// One mark: a stance of one limb, on the file's clock.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize)]
pub struct Mark {
    /// Name given by whoever made it; unique in the clip.
    pub id: String,
    /// Which limb.
    #[serde(with = "limb_code")]
    pub limb: Limb,
    /// First frame of contact, µs.
    pub on_us: i64,
    /// First frame clear, µs.
    pub off_us: Option<i64>,
    /// How it came about.
    pub origin: Origin,
    /// Who made it, or moved it last. Whoever makes an edit makes its marks.
    pub author: Person,
    /// Where the hoof stands in the picture, px from the left and upper edges of the footage as
    /// shown; `None` when it was not clicked.
    pub hoof: Option<(f64, f64)>,
}

/// One change of one mark: from `before` (nothing: it is new) to `after` (nothing: it goes).
#[derive(Clone, Debug, PartialEq)]
pub struct Change {
    /// What must stand there now.
    pub before: Option<Mark>,
    /// What is to stand there.
    pub after: Option<Mark>,
}

impl Change {
    /// The same change, made by `person`.
    pub(crate) fn by(mut self, person: &Person) -> Self {
        if let Some(after) = &mut self.after {
            after.author = person.clone();
        }
        self
    }
}

/// Marks of one clip at one revision, as they stand on disk.
#[derive(Debug)]
pub struct Recent {
    pub clip: i64,
    pub revision: i64,
    pub marks: Vec<Mark>,
}

impl Recent {
    /// Makes a change; false when it does not start from what stands here.
    pub fn apply(&mut self, change: &Change) -> bool {
        if let Some(b) = &change.before {
            let Some(k) = self.marks.iter().position(|m| m.id == b.id) else { return false };
            self.marks.remove(k);
        }
        if let Some(a) = &change.after {
            let k = self.marks.partition_point(|m| (m.on_us, &m.id) < (a.on_us, &a.id));
            self.marks.insert(k, a.clone());
        }
        true
    }
}

/// A limb by its letters.
mod limb_code {
    use serde::de::Error as _;
    use serde::{Deserialize as _, Deserializer, Serializer};
    use umlauf_gait::base::limb::Limb;

    #[expect(clippy::trivially_copy_pass_by_ref, reason = "serde asks for a reference")]
    pub fn serialize<S: Serializer>(limb: &Limb, out: S) -> Result<S::Ok, S::Error> {
        out.serialize_str(limb.code())
    }

    pub fn deserialize<'de, D: Deserializer<'de>>(from: D) -> Result<Limb, D::Error> {
        let code = String::deserialize(from)?;
        code.parse().map_err(|_| D::Error::custom(format!("`{code}` is no limb")))
    }
}
