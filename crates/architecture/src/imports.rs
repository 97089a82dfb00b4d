//! Which files of its own folder a file uses.

use super::source::{Language, SourceFile};

/// Names of the files that a file uses, sorted, itself left out.
pub(crate) fn of(file: &SourceFile, names: &[&str], language: Language) -> Vec<String> {
    let mut out = match language {
        Language::Rust => rust(file, names),
        Language::TypeScript => typescript(file, names),
    };
    out.sort();
    out.dedup();
    out.retain(|name| *name != file.name);
    out
}

/// The file of a module's path: `a/b.rs` or `a/b/mod.rs` for the longest beginning that is one.
fn rust_file(path: &[&str], names: &[&str]) -> Option<String> {
    (1..=path.len()).rev().find_map(|n| {
        let base = path[..n].join("/");
        [format!("{base}.rs"), format!("{base}/mod.rs")]
            .into_iter()
            .find(|candidate| names.contains(&candidate.as_str()))
    })
}

fn rust(file: &SourceFile, names: &[&str]) -> Vec<String> {
    let code = without_comments_and_strings(&file.text);
    // What `super` stands in: the file's own module; a `mod.rs` is its folder's.
    let mut own: Vec<&str> = file.name.trim_end_matches(".rs").split('/').collect();
    if own.last() == Some(&"mod") {
        own.pop();
    }
    let mut out = Vec::new();
    for root in ["crate::", "super::"] {
        let mut from = 0;
        while let Some(found) = code[from..].find(root) {
            let at = from + found;
            from = at + root.len();
            if code[..at].ends_with(|c: char| c.is_alphanumeric() || c == '_' || c == ':') {
                continue;
            }
            let mut up = usize::from(root == "super::");
            while up > 0 && code[from..].starts_with("super::") {
                from += "super::".len();
                up += 1;
            }
            let base = if up == 0 { &[][..] } else { &own[..own.len().saturating_sub(up)] };
            for leaf in leaves(&code[from..]) {
                let path: Vec<&str> =
                    base.iter().copied().chain(leaf.iter().map(String::as_str)).collect();
                out.extend(rust_file(&path, names));
            }
        }
    }
    out
}

/// The paths of a use tree that begins here: `a::{b, c::D}` gives `a::b` and `a::c::D`.
fn leaves(tree: &str) -> Vec<Vec<String>> {
    let mut path: Vec<String> = Vec::new();
    let mut rest = tree;
    loop {
        let end = rest.find(|c: char| !(c.is_alphanumeric() || c == '_')).unwrap_or(rest.len());
        if end > 0 {
            path.push(rest[..end].to_owned());
            rest = &rest[end..];
        }
        if let Some(inner) = rest.strip_prefix("::") {
            rest = inner;
            if rest.starts_with('<') || rest.starts_with('*') {
                return vec![path];
            }
        } else if let Some(inner) = rest.strip_prefix('{') {
            let mut out = Vec::new();
            for part in parts(inner) {
                for leaf in leaves(part.trim()) {
                    let leaf = leaf.into_iter().filter(|s| s != "self");
                    out.push(path.iter().cloned().chain(leaf).collect());
                }
            }
            return out;
        } else {
            return vec![path];
        }
    }
}

/// What stands between the commas of a brace's inside, up to its end.
fn parts(inner: &str) -> Vec<&str> {
    let (mut depth, mut start, mut out) = (0, 0, Vec::new());
    for (k, c) in inner.char_indices() {
        match c {
            '{' => depth += 1,
            '}' if depth == 0 => {
                out.push(&inner[start..k]);
                break;
            }
            '}' => depth -= 1,
            ',' if depth == 0 => {
                out.push(&inner[start..k]);
                start = k + 1;
            }
            _ => {}
        }
    }
    out.retain(|p| !p.trim().is_empty());
    out
}

/// Code with comments and the insides of string literals taken out.
fn without_comments_and_strings(text: &str) -> String {
    let mut out = String::with_capacity(text.len());
    for line in text.lines() {
        let (mut inside, mut escaped, mut last) = (false, false, ' ');
        for c in line.chars() {
            if !inside && c == '/' && last == '/' {
                out.pop();
                break;
            }
            match c {
                _ if escaped => escaped = false,
                '\\' if inside => escaped = true,
                '"' if last != '\'' => inside = !inside,
                _ if !inside => out.push(c),
                _ => {}
            }
            last = c;
        }
        out.push('\n');
    }
    out
}

fn typescript(file: &SourceFile, names: &[&str]) -> Vec<String> {
    let folder: Vec<&str> = file.name.split('/').collect();
    let folder = &folder[..folder.len() - 1];
    let mut out = Vec::new();
    for mark in ["from \"", "import \"", "import(\""] {
        for piece in file.text.split(mark).skip(1) {
            let Some(target) = piece.split('"').next().filter(|t| t.starts_with('.')) else {
                continue;
            };
            let mut path: Vec<&str> = folder.to_vec();
            for step in target.split('/') {
                match step {
                    "." => {}
                    ".." => {
                        path.pop();
                    }
                    name => path.push(name),
                }
            }
            let base = path.join("/");
            let candidates = [
                base.clone(),
                format!("{base}.ts"),
                format!("{base}.tsx"),
                format!("{base}/index.ts"),
            ];
            out.extend(candidates.into_iter().find(|c| names.contains(&c.as_str())));
        }
    }
    out
}
