//! Source files, and how many lines of code they have.

use std::path::Path;

/// A language whose imports are read.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Language {
    /// Rust: files ending in `.rs`.
    Rust,
    /// TypeScript: files ending in `.ts` or `.tsx`, tests and declarations left out.
    TypeScript,
}

/// One file.
#[derive(Clone, Debug)]
pub struct SourceFile {
    /// Path below the source folder, with `/`.
    pub name: String,
    /// Its text without what stands under `#[cfg(test)]`.
    pub text: String,
}

impl SourceFile {
    /// The first folder below the source folder, or the file's own name without its ending.
    pub fn folder(&self) -> &str {
        super::folder_of(&self.name)
    }

    /// Lines that are neither blank nor comment.
    pub fn lines_of_code(&self) -> usize {
        lines_of_code(&self.text)
    }
}

/// Lines of a text that are neither blank nor a line comment.
///
/// ```
/// assert_eq!(umlauf_architecture::lines_of_code("// why\nlet a = 1;\n\n"), 1);
/// ```
pub fn lines_of_code(text: &str) -> usize {
    let code = |line: &&str| !line.is_empty() && !line.starts_with("//");
    text.lines().map(str::trim).filter(code).count()
}

/// All files of a folder, by name.
pub(crate) fn read(folder: &Path, language: Language) -> std::io::Result<Vec<SourceFile>> {
    let mut out = Vec::new();
    walk(folder, "", language, &mut out)?;
    out.sort_by(|a: &SourceFile, b| a.name.cmp(&b.name));
    Ok(out)
}

fn walk(
    folder: &Path,
    below: &str,
    language: Language,
    out: &mut Vec<SourceFile>,
) -> std::io::Result<()> {
    for entry in std::fs::read_dir(folder)? {
        let entry = entry?;
        let name = format!("{below}{}", entry.file_name().to_string_lossy());
        if entry.file_type()?.is_dir() {
            walk(&entry.path(), &format!("{name}/"), language, out)?;
        } else if belongs(&name, language) {
            let text = std::fs::read_to_string(entry.path())?;
            let end = text.find("\n#[cfg(test)]").unwrap_or(text.len());
            out.push(SourceFile { name, text: text[..end].to_owned() });
        }
    }
    Ok(())
}

fn belongs(name: &str, language: Language) -> bool {
    match language {
        Language::Rust => name.ends_with(".rs"),
        Language::TypeScript => {
            let source = name.ends_with(".ts") || name.ends_with(".tsx");
            source && !name.contains(".test.") && !name.ends_with(".d.ts")
        }
    }
}
