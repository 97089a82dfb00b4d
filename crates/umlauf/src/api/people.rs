//! People who may sign in, and who changed what.

use axum::http::StatusCode;
use serde::{Deserialize, Serialize};
use umlauf_store::account::AccountForm;
use umlauf_store::person::Person;
use umlauf_store::role::Role;
use umlauf_store::{Store, StoreError};
use utoipa::ToSchema;

use crate::api::extract::{Answer, Json, Path, State};
use crate::api::yard::Added;
use crate::dates::now_ms;
use crate::people::password;
use crate::problem::Problem;
use crate::refused::Refused;

/// A device that somebody is signed in on.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Device {
    /// What it is.
    pub device: String,
    /// Signed in since, ms of Unix time.
    pub began_ms: i64,
    /// Last used, to the hour, ms of Unix time.
    pub seen_ms: i64,
}

/// Somebody who may sign in.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct PersonLine {
    /// Number.
    pub id: i64,
    /// Name.
    pub name: String,
    /// `coach`, `assistant` or `rider`.
    #[schema(value_type = String)]
    pub role: Role,
    /// Under age: nothing of them leaves the yard by itself.
    pub under_age: bool,
    /// Horses that a rider sees.
    pub horses: Vec<i64>,
    /// Where they are signed in.
    pub devices: Vec<Device>,
}

/// Everybody who may sign in.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct People {
    /// By name.
    pub people: Vec<PersonLine>,
    /// Letters of a password at least.
    pub password_letters: usize,
}

fn read(s: &Store) -> Result<People, StoreError> {
    let devices = s.devices(now_ms())?;
    let of = |id: i64| devices.iter().filter(move |d| d.account == id).cloned();
    let people = s.accounts()?.into_iter().map(|a| {
        let devices =
            of(a.id).map(|d| Device { device: d.device, began_ms: d.began_ms, seen_ms: d.seen_ms });
        Ok(PersonLine {
            id: a.id,
            name: a.person.id().to_owned(),
            role: a.role,
            under_age: a.under_age,
            horses: s.horses_of_account(a.id)?,
            devices: devices.collect(),
        })
    });
    let people = people.collect::<Result<_, StoreError>>()?;
    Ok(People { people, password_letters: password::LEAST })
}

/// Everybody who may sign in.
#[utoipa::path(get, path = "/api/people", responses((status = 200, body = People)))]
pub async fn people(state: State) -> Answer<People> {
    state.read(read).await.map(axum::Json)
}

/// What is said of somebody.
#[derive(Clone, Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct PersonForm {
    /// Name, of nobody else.
    name: String,
    /// `coach`, `assistant` or `rider`.
    #[schema(value_type = String)]
    role: Role,
    /// Under age.
    #[serde(default)]
    under_age: bool,
    /// Horses that a rider sees.
    #[serde(default)]
    horses: Vec<i64>,
}

impl PersonForm {
    fn taken(self) -> Result<AccountForm, Refused> {
        let name = self.name.trim();
        if name.chars().any(char::is_control) {
            return Err(Refused::invalid("a name is one line of letters"));
        }
        let horses = if self.role == Role::Rider { self.horses } else { vec![] };
        let person = Person::named(name)?;
        Ok(AccountForm { person, role: self.role, under_age: self.under_age, horses })
    }
}

/// Somebody new, with their first password.
#[derive(Clone, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct NewPerson {
    /// Who.
    person: PersonForm,
    /// Their password.
    password: String,
}

/// Lets somebody sign in. The first is a coach: as long as anybody signs in, a coach can.
#[utoipa::path(post, path = "/api/people", request_body = NewPerson,
    responses((status = 200, body = Added), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn add_person(state: State, Json(new): Json<NewPerson>) -> Answer<Added> {
    let form = new.person.taken()?;
    password::good(&new.password, form.person.id())?;
    let _turn = state.one_password.acquire().await;
    let id = state
        .ask(move |s| {
            if form.role != Role::Coach && !s.has_coach()? {
                return Err(Refused::invalid("give the coach a password first, then the others"));
            }
            Ok(s.add_account(&form, &password::kept(&new.password)?)?)
        })
        .await?;
    state.network_asked.notify_one();
    Ok(axum::Json(Added { id }))
}

/// Changes what is said of somebody; they are signed out everywhere.
#[utoipa::path(put, path = "/api/people/{person}", params(("person" = i64, Path,)), request_body = PersonForm,
    responses((status = 204), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn change_person(
    state: State,
    Path(id): Path<i64>,
    Json(form): Json<PersonForm>,
) -> Result<StatusCode, Refused> {
    let form = form.taken()?;
    state.with(move |s| s.change_account(id, &form)).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Somebody signs in no more. What they have marked stays, under their name.
#[utoipa::path(delete, path = "/api/people/{person}", params(("person" = i64, Path,)),
    responses((status = 204), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn remove_person(state: State, Path(id): Path<i64>) -> Result<StatusCode, Refused> {
    state.take_away(move |s| s.remove_account(id)).await?;
    state.network_asked.notify_one();
    Ok(StatusCode::NO_CONTENT)
}

/// Another password.
#[derive(Clone, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct NewPassword {
    /// The password from now on.
    password: String,
}

/// Gives somebody another password; they are signed out everywhere.
#[utoipa::path(put, path = "/api/people/{person}/password", params(("person" = i64, Path,)), request_body = NewPassword,
    responses((status = 204), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn set_password(
    state: State,
    Path(id): Path<i64>,
    Json(new): Json<NewPassword>,
) -> Result<StatusCode, Refused> {
    let account = state.with(move |s| s.account(id)).await?;
    password::good(&new.password, account.person.id())?;
    let _turn = state.one_password.acquire().await;
    state.ask(move |s| Ok(s.set_password(id, &password::kept(&new.password)?)?)).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Signs somebody out on all their devices.
#[utoipa::path(post, path = "/api/people/{person}/sign-out", params(("person" = i64, Path,)),
    responses((status = 204), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn sign_out_person(state: State, Path(id): Path<i64>) -> Result<StatusCode, Refused> {
    state
        .take_away(move |s| {
            s.account(id)?;
            s.sign_out_everywhere(Some(id))
        })
        .await?;
    Ok(StatusCode::NO_CONTENT)
}
