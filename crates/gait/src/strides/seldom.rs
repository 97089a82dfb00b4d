//! What a footfall of a stride seldom has.

use std::ops::{Deref, DerefMut};

/// Something of each limb, by [`crate::Limb::index`], that most clips do not have: it takes room only
/// where there is any. A long ride has a stride for every half second, and every figure goes through
/// all of them.
#[derive(Clone, Debug)]
pub struct Seldom<T: Copy>(Option<Box<[Option<T>; 4]>>);

impl<T: Copy> Seldom<T> {
    const NONE: [Option<T>; 4] = [None; 4];
}

impl<T: Copy> Default for Seldom<T> {
    fn default() -> Self {
        Self(None)
    }
}

impl<T: Copy> Deref for Seldom<T> {
    type Target = [Option<T>; 4];

    fn deref(&self) -> &[Option<T>; 4] {
        self.0.as_deref().unwrap_or(&Self::NONE)
    }
}

impl<T: Copy> DerefMut for Seldom<T> {
    fn deref_mut(&mut self) -> &mut [Option<T>; 4] {
        self.0.get_or_insert_with(|| Box::new(Self::NONE))
    }
}

impl<T: Copy + PartialEq> PartialEq for Seldom<T> {
    fn eq(&self, other: &Self) -> bool {
        **self == **other
    }
}
