//! A footfalls table in, the analysis document out.

use axum::body::Bytes;
use serde::Deserialize;
use umlauf_gait::Side;
use umlauf_gait::base::schools::Schools;
use umlauf_gait::base::units::{FrameRate, Metres, Seconds};
use umlauf_gait::marks::marks_csv;
use utoipa::IntoParams;

use crate::api::extract::{Answer, Query, State};
use crate::document::table::{self, Given};
use crate::document::whole::{Document, document};
use crate::problem::Problem;
use crate::refused::Refused;

/// The options of the command line.
#[derive(Debug, Deserialize, IntoParams)]
#[serde(rename_all = "kebab-case", deny_unknown_fields)]
#[into_params(parameter_in = Query)]
pub struct AnalyseOptions {
    /// `left` or `right`.
    rein: Option<String>,
    /// `left` or `right`.
    asked_lead: Option<String>,
    /// Capture rate, frames/s.
    frame_rate: Option<f64>,
    /// Standard deviation of a mark, s.
    timing_sd: Option<f64>,
    /// Height at the withers, m.
    withers: Option<f64>,
    /// The horse is gaited.
    gaited: Option<bool>,
    /// Marks beside the footfalls, as a marks table (CSV).
    marks: Option<String>,
    /// Schools in force, `matter=school` with commas between.
    schools: Option<String>,
    /// Degree of collection, 1 to 4.
    degree: Option<u8>,
}

/// Largest table over HTTP, bytes.
pub const MOST_BYTES: usize = 64 << 20;

/// Analyses a footfalls table.
#[utoipa::path(post, path = "/api/analyse", params(AnalyseOptions),
    request_body(content = String, content_type = "text/csv"),
    responses((status = 200, body = Document), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn analyse(
    state: State,
    Query(options): Query<AnalyseOptions>,
    body: Table,
) -> Answer<Document> {
    let given = given(&options)?;
    let (analysis, _) = state.at_length(move || table::table(&body.0, &given)).await??;
    Ok(axum::Json(document(&analysis)))
}

fn given(options: &AnalyseOptions) -> Result<Given, Refused> {
    let bad = |what: &str| Refused::Unreadable(what.to_owned());
    let side = |word: &Option<String>, what: &str| {
        word.as_deref().map(|w| w.parse::<Side>().map_err(|_| bad(what))).transpose()
    };
    let positive = |value: Option<f64>, what: &str| match value {
        Some(v) if v.is_finite() && v > 0.0 => Ok(Some(v)),
        Some(_) => Err(bad(what)),
        None => Ok(None),
    };
    let mut schools = Schools::default();
    for text in options.schools.iter().flat_map(|s| s.split(',')) {
        table::choose_school(&mut schools, text).map_err(|e| bad(&format!("`schools`: {e}")))?;
    }
    Ok(Given {
        rein: side(&options.rein, "`rein` must be left or right")?,
        asked_lead: side(&options.asked_lead, "`asked-lead` must be left or right")?,
        frame_rate: options
            .frame_rate
            .map(|f| FrameRate::new(f).map_err(|e| bad(&e.to_string())))
            .transpose()?,
        timing_sd: positive(options.timing_sd, "`timing-sd` must be seconds above 0")?.map(Seconds),
        withers: positive(options.withers, "`withers` must be metres above 0")?.map(Metres),
        gaited: options.gaited.unwrap_or(false),
        marks: options
            .marks
            .as_deref()
            .map(|table| marks_csv::read(table.as_bytes()))
            .transpose()?
            .unwrap_or_default(),
        schools,
        degree: match options.degree {
            Some(degree) if !(1..=4).contains(&degree) => {
                return Err(bad("`degree` must be 1 to 4"));
            }
            degree => degree,
        },
    })
}

/// A table of at most [`MOST_BYTES`].
pub struct Table(Bytes);

impl<S: Send + Sync> axum::extract::FromRequest<S> for Table {
    type Rejection = Refused;

    async fn from_request(request: axum::extract::Request, _: &S) -> Result<Self, Refused> {
        let body = axum::body::to_bytes(request.into_body(), MOST_BYTES).await.map_err(|_| {
            Refused::TooMuch {
                code: "too-large",
                says: "a table over HTTP may have 64 MiB; cut it into sessions",
            }
        })?;
        Ok(Self(body))
    }
}
