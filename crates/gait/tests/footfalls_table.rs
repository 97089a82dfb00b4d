//! The footfalls table: what is read, what is refused and how that is said.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

use proptest::prelude::*;
use umlauf_gait::marks::footfall_csv::{FootfallTable, read, write};
use umlauf_gait::{Limb, Side, analyse};

const HEAD: &str = "limb,on_s,off_s,x_m,y_m\n";

fn refusal(text: &str) -> String {
    read(text.as_bytes()).expect_err("refused").to_string()
}

#[test]
fn reads_comments_columns_and_empty_cells() {
    let text = "# frame_rate: 120\n# rein: left\n# gaited: true\n# by hand, in the rain\n\
                on_s,limb,off_s,weather\n0.5,RH,,rain\n\n0.25, LF ,0.5,\n";
    let table = read(text.as_bytes()).unwrap();
    assert_eq!(table.header.frame_rate.unwrap().per_second(), 120.0);
    assert_eq!(table.header.rein, Some(Side::Left));
    assert_eq!(table.header.gaited, Some(true));
    let rows: Vec<_> =
        table.footfalls.iter().map(|f| (f.limb, f.on.0, f.off.map(|o| o.0), f.line)).collect();
    assert_eq!(rows, [(Limb::RH, 0.5, None, 6), (Limb::LF, 0.25, Some(0.5), 8)]);
}

#[test]
fn refuses_with_the_line_and_what_stood_there() {
    let row = |r: &str| format!("{HEAD}RH,0.1,,,\n{r}\n");
    for (text, wanted) in [
        (String::new(), "empty"),
        (HEAD.to_owned(), "no footfall"),
        ("limb,off_s\nRH,1\n".into(), "line 1: no column `on_s`"),
        ("limb,on_s,on_s\nRH,1,1\n".into(), "line 1: the column `on_s` stands twice"),
        (row("XX,0.2,,,"), "line 3: `limb` must be LF, RF, LH or RH, found `XX`"),
        (row("LH,,,,"), "line 3: `on_s` is needed"),
        (row("LH,abc,,,"), "line 3: a time must be"),
        (row("LH,NaN,,,"), "found `NaN`"),
        (row("LH,inf,,,"), "found `inf`"),
        (row("LH,604801,,,"), "within 7 days"),
        (row("LH,0.5,0.4,,"), "line 3: the stance ends before it begins"),
        (row("LH,0,5,0,6,1,2"), "line 3: 7 cells under a header of 5"),
        (row("LH,0.5,,north,"), "line 3: a position must be"),
        (format!("# frame_rate: 0\n{HEAD}RH,1,,,\n"), "line 1: `frame_rate`"),
        (format!("# rein: centre\n{HEAD}RH,1,,,\n"), "found `centre`"),
    ] {
        let said = refusal(&text);
        assert!(said.contains(wanted), "{text:?}: {said}");
    }
    let long = "x".repeat(5000);
    assert!(refusal(&row(&format!("{long},1,,,"))).len() < 120);
    let said = read(b"limb,on_s\nRH,1\nLH,\xff\xfe\n").unwrap_err().to_string();
    assert!(said.contains("line 3") && said.contains("UTF-8"), "{said}");
}

#[test]
fn a_suggested_table_keeps_its_errors_and_lists_beats_without_a_limb() {
    let head = "limb,on_s,off_s,x_m,y_m,x_px,y_px,sd_on_s,sd_off_s,confidence,source,why\n";
    let named = "LH,1.0,1.3,,,,,0.004,,0.9,picture,\n";
    let beat = ",1.2,,,,,,0.002,,0.8,sound,\"faint, perhaps an echo\"\n";
    let table = read(format!("{head}{named}{beat}").as_bytes()).unwrap();
    assert_eq!((table.footfalls.len(), &table.without_limb[..]), (1, &[3usize][..]));
    assert_eq!(table.footfalls[0].sd.unwrap().0, 0.004);
    let said = read(format!("{head}{beat}{beat}").as_bytes()).unwrap_err().to_string();
    assert!(said.contains("2 beats"), "{said}");
    // A mark that somebody made has a limb; an error is a number above nothing.
    assert!(read(b"limb,on_s\n,1.0\n").is_err());
    for sd in ["0", "-0.01", "NaN", "inf", "x"] {
        let said = read(format!("limb,on_s,sd_on_s\nLH,1.0,{sd}\n").as_bytes()).unwrap_err();
        assert!(said.to_string().contains("line 2"), "{said}");
    }
}

proptest! {
    #![proptest_config(ProptestConfig { failure_persistence: None, ..ProptestConfig::default() })]

    #[test]
    fn any_bytes_are_read_or_refused_and_analysed(bytes in prop::collection::vec(any::<u8>(), 0..400)) {
        if let Ok(table) = read(&bytes) {
            analyse(&table.footfalls, &Default::default());
        }
    }

    #[test]
    fn any_cells_are_read_or_refused_and_analysed(
        rows in prop::collection::vec(("(LF|RF|LH|RH|lf|)", "-?[0-9]{0,6}(\\.[0-9]{0,3})?(e[0-9])?", "[0-9]{0,3}"), 1..60)
    ) {
        let mut text = HEAD.to_owned();
        for (limb, on, off) in rows {
            text.push_str(&format!("{limb},{on},{off},,\n"));
        }
        if let Ok(table) = read(text.as_bytes()) {
            analyse(&table.footfalls, &Default::default());
        }
    }

    #[test]
    fn what_is_written_reads_back(
        rows in prop::collection::vec((0..4usize, 0..1_000_000_000i64, prop::option::of(0..5_000_000i64)), 1..50)
    ) {
        let mut text = HEAD.to_owned();
        for (limb, on, stance) in &rows {
            let on_s = *on as f64 / 1e6;
            let off = stance.map_or(String::new(), |s| format!("{:.6}", (on + s) as f64 / 1e6));
            text.push_str(&format!("{},{on_s:.6},{off},,\n", Limb::ALL[*limb]));
        }
        let table = read(text.as_bytes()).unwrap();
        let again = read(write(&table).as_bytes()).unwrap();
        prop_assert_eq!(strip(table), strip(again));
    }
}

/// Line numbers differ when comments do.
fn strip(mut table: FootfallTable) -> FootfallTable {
    for f in &mut table.footfalls {
        f.line = 0;
    }
    table
}
