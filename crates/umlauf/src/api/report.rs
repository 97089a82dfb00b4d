//! Reports as print-ready HTML, and tables as CSV.

use axum::http::{HeaderValue, header};
use axum::response::{IntoResponse as _, Response};
use serde::Deserialize;
use umlauf_store::role::Role;
use utoipa::IntoParams;

use crate::api::extract::{Path, Query, State};
use crate::people::who::Who;
use crate::problem::Problem;
use crate::record::filter::Filter;
use crate::record::read;
use crate::refused::Refused;
use crate::report::paper::Reader;
use crate::report::{period, session};

/// Who a report is for.
#[derive(Debug, Deserialize, IntoParams)]
#[serde(deny_unknown_fields)]
#[into_params(parameter_in = Query)]
pub struct For {
    /// `coach` or `rider`.
    #[serde(default)]
    r#for: Option<String>,
}

impl Who {
    /// What somebody is given to read, who asks for it as `reader`: a rider never the coach's notes.
    fn reads_as(&self, reader: Reader) -> Reader {
        if self.role == Role::Rider { Reader::Rider } else { reader }
    }
}

impl For {
    fn reader(&self) -> Reader {
        if self.r#for.as_deref() == Some("rider") { Reader::Rider } else { Reader::Coach }
    }
}

pub(crate) fn html(text: String) -> Response {
    let mut response = text.into_response();
    let kind = HeaderValue::from_static("text/html; charset=utf-8");
    response.headers_mut().insert(header::CONTENT_TYPE, kind);
    response
}

/// The report on a session, HTML for print.
#[utoipa::path(get, path = "/api/reports/session/{session}", params(("session" = i64, Path,), For),
    responses((status = 200, content_type = "text/html", body = String), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn of_session(
    state: State,
    Path(id): Path<i64>,
    Query(of): Query<For>,
) -> Result<Response, Refused> {
    let (who, reader) = (state.rights.clone(), of.reader());
    state
        .read_at_length(move |s| {
            who.may_see_session(s, id)?;
            session::of_session(s, id, who.reads_as(reader))
        })
        .await
        .map(html)
}

/// The report on a horse's period in one gait, HTML for print.
#[utoipa::path(get, path = "/api/reports/horse/{horse}/{for}", params(("horse" = i64, Path,), ("for" = String, Path, description = "`coach` or `rider`"), Filter),
    responses((status = 200, content_type = "text/html", body = String), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn of_period(
    state: State,
    Path((id, reader)): Path<(i64, String)>,
    Query(filter): Query<Filter>,
) -> Result<Response, Refused> {
    let reader = if reader == "rider" { Reader::Rider } else { Reader::Coach };
    let who = state.rights.clone();
    state
        .read_at_length(move |s| {
            who.may_see(id)?;
            period::of_period(s, id, &filter, who.reads_as(reader))
        })
        .await
        .map(html)
}

/// A horse's card as a table: a row a session, a column a figure with its interval.
#[utoipa::path(get, path = "/api/horses/{horse}/record.csv", params(("horse" = i64, Path,), Filter),
    responses((status = 200, content_type = "text/csv", body = String), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn csv(
    state: State,
    Path(id): Path<i64>,
    Query(filter): Query<Filter>,
) -> Result<Response, Refused> {
    let record = state.read_at_length(move |s| read::read(s, id, &filter)).await?;
    let mut rows = vec![vec!["date".to_owned(), "bouts".to_owned(), "strides".to_owned()]];
    for r in &record.rows {
        for end in ["", "_lo", "_hi"] {
            rows[0].push(format!("{}{end}", r.metric));
        }
    }
    for (k, s) in record.sessions.iter().enumerate() {
        let mut line = vec![s.date.clone(), s.bouts.to_string(), s.strides.to_string()];
        for r in &record.rows {
            let e = r.series.get(k).and_then(Option::as_ref);
            let cell = |v: Option<f64>| v.map_or_else(String::new, |v| v.to_string());
            line.push(cell(e.map(|e| e.value)));
            line.push(cell(e.and_then(|e| e.ci95).map(|c| c[0])));
            line.push(cell(e.and_then(|e| e.ci95).map(|c| c[1])));
        }
        rows.push(line);
    }
    let text: String = rows.iter().map(|r| r.join(",") + "\n").collect();
    let mut response = text.into_response();
    let kind = HeaderValue::from_static("text/csv; charset=utf-8");
    response.headers_mut().insert(header::CONTENT_TYPE, kind);
    Ok(response)
}
