//! Rings among files: Tarjan's strongly connected components (Tarjan 1972, SIAM J Comput 1:146).

use std::collections::BTreeMap;

/// Every group of files that reach one another, each sorted.
pub(crate) fn rings(arrows: &BTreeMap<&str, Vec<String>>) -> Vec<Vec<String>> {
    let mut search = Search::over(arrows);
    for name in arrows.keys() {
        if !search.number.contains_key(name) {
            search.visit(name);
        }
    }
    search.out
}

struct Search<'a> {
    arrows: &'a BTreeMap<&'a str, Vec<String>>,
    number: BTreeMap<&'a str, usize>,
    lowest: BTreeMap<&'a str, usize>,
    stack: Vec<&'a str>,
    out: Vec<Vec<String>>,
}

impl<'a> Search<'a> {
    fn over(arrows: &'a BTreeMap<&'a str, Vec<String>>) -> Self {
        Self {
            arrows,
            number: BTreeMap::new(),
            lowest: BTreeMap::new(),
            stack: Vec::new(),
            out: Vec::new(),
        }
    }

    fn visit(&mut self, name: &'a str) {
        let own = self.number.len();
        self.number.insert(name, own);
        let mut lowest = own;
        self.stack.push(name);
        for next in self.arrows.get(name).into_iter().flatten() {
            let next = next.as_str();
            match self.number.get(next) {
                None => {
                    self.visit(next);
                    lowest = lowest.min(self.lowest.get(next).copied().unwrap_or(own));
                }
                Some(n) if self.stack.contains(&next) => lowest = lowest.min(*n),
                Some(_) => {}
            }
        }
        self.lowest.insert(name, lowest);
        if lowest == own {
            let from = self.stack.iter().rposition(|s| *s == name).unwrap_or(0);
            let mut ring: Vec<String> = self.stack.drain(from..).map(str::to_owned).collect();
            if ring.len() > 1 {
                ring.sort();
                self.out.push(ring);
            }
        }
    }
}
