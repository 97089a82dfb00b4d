//! The tables, step by step from the first version on.

use rusqlite::Connection;
use rusqlite_migration::{M, Migrations};

use crate::error::StoreError;

/// The version that this program writes.
pub const VERSION: usize = 9;

/// Brings a file to this version; one of a later version is left as it is.
pub(crate) fn bring_up_to_date(connection: &mut Connection) -> Result<(), StoreError> {
    let version: i64 = connection.query_row("PRAGMA user_version", [], |r| r.get(0))?;
    match usize::try_from(version) {
        Ok(version) if version > VERSION => Err(StoreError::Later { version, known: VERSION }),
        _ => Ok(migrations().to_latest(connection)?),
    }
}

pub fn migrations() -> Migrations<'static> {
    Migrations::new(vec![
        M::up(
            "CREATE TABLE horse (
            id INTEGER PRIMARY KEY,
            name TEXT NOT NULL,
            withers_m REAL,
            gaited INTEGER NOT NULL DEFAULT 0,
            removed INTEGER NOT NULL DEFAULT 0
        );
        CREATE TABLE session (
            id INTEGER PRIMARY KEY,
            horse INTEGER NOT NULL REFERENCES horse (id),
            date TEXT NOT NULL,
            note TEXT NOT NULL DEFAULT '',
            rider TEXT NOT NULL DEFAULT '',
            arena TEXT NOT NULL DEFAULT '',
            surface TEXT NOT NULL DEFAULT '',
            removed INTEGER NOT NULL DEFAULT 0
        );
        CREATE INDEX session_of_horse ON session (horse, date);
        CREATE TABLE clip (
            id INTEGER PRIMARY KEY,
            -- Footage that nobody has said the horse of yet has none.
            session INTEGER REFERENCES session (id),
            name TEXT NOT NULL,
            content TEXT NOT NULL,
            file TEXT NOT NULL,
            bytes INTEGER NOT NULL,
            codec TEXT NOT NULL,
            width INTEGER NOT NULL,
            height INTEGER NOT NULL,
            frame_rate REAL,
            frame_times BLOB NOT NULL,
            length_s REAL NOT NULL,
            rotation INTEGER NOT NULL DEFAULT 0,
            recorded TEXT,
            tagged_rate REAL,
            sound BLOB,
            settings TEXT NOT NULL,
            proxy TEXT NOT NULL DEFAULT 'pending',
            proxy_shift_us INTEGER NOT NULL DEFAULT 0,
            remark TEXT NOT NULL DEFAULT '',
            revision INTEGER NOT NULL DEFAULT 0,
            removed INTEGER NOT NULL DEFAULT 0
        );
        CREATE INDEX clip_by_content ON clip (content);
        CREATE INDEX clip_of_session ON clip (session);
        CREATE TABLE mark (
            clip INTEGER NOT NULL REFERENCES clip (id),
            id TEXT NOT NULL,
            limb TEXT NOT NULL,
            on_us INTEGER NOT NULL,
            off_us INTEGER,
            tap_rate REAL,
            PRIMARY KEY (clip, id)
        ) WITHOUT ROWID;
        CREATE TABLE edit (
            clip INTEGER NOT NULL REFERENCES clip (id),
            seq INTEGER NOT NULL,
            edit_id TEXT NOT NULL,
            undone INTEGER NOT NULL DEFAULT 0,
            -- An edit of the clip's settings; NULL when it changes marks only.
            old_settings TEXT,
            new_settings TEXT,
            PRIMARY KEY (clip, seq),
            UNIQUE (clip, edit_id)
        );
        CREATE TABLE edit_change (
            clip INTEGER NOT NULL,
            seq INTEGER NOT NULL,
            place INTEGER NOT NULL,
            mark TEXT NOT NULL,
            old_limb TEXT, old_on INTEGER, old_off INTEGER, old_tap REAL,
            new_limb TEXT, new_on INTEGER, new_off INTEGER, new_tap REAL,
            PRIMARY KEY (clip, seq, place),
            FOREIGN KEY (clip, seq) REFERENCES edit (clip, seq) ON DELETE CASCADE
        ) WITHOUT ROWID;
        CREATE TABLE upload (
            id TEXT PRIMARY KEY,
            session INTEGER REFERENCES session (id),
            name TEXT NOT NULL,
            bytes INTEGER NOT NULL
        );
        CREATE TABLE job (
            id INTEGER PRIMARY KEY,
            clip INTEGER NOT NULL REFERENCES clip (id),
            kind TEXT NOT NULL,
            state TEXT NOT NULL DEFAULT 'waiting',
            progress REAL NOT NULL DEFAULT 0,
            attempts INTEGER NOT NULL DEFAULT 0,
            began_ms INTEGER NOT NULL DEFAULT 0,
            says TEXT NOT NULL DEFAULT ''
        );
        CREATE INDEX job_by_state ON job (state, id);
        CREATE INDEX job_of_clip ON job (clip);
        CREATE TABLE choice (
            key TEXT PRIMARY KEY,
            value TEXT NOT NULL
        ) WITHOUT ROWID;
        CREATE TABLE seen_file (
            path TEXT PRIMARY KEY,
            bytes INTEGER NOT NULL,
            changed INTEGER NOT NULL
        ) WITHOUT ROWID;",
        ),
        M::up(
            "CREATE TABLE tag (
            clip INTEGER NOT NULL REFERENCES clip (id),
            id TEXT NOT NULL,
            from_us INTEGER NOT NULL,
            to_us INTEGER,
            what TEXT NOT NULL,
            PRIMARY KEY (clip, id)
        ) WITHOUT ROWID;
        CREATE TABLE edit_tag (
            clip INTEGER NOT NULL,
            seq INTEGER NOT NULL,
            place INTEGER NOT NULL,
            old TEXT,
            new TEXT,
            PRIMARY KEY (clip, seq, place),
            FOREIGN KEY (clip, seq) REFERENCES edit (clip, seq) ON DELETE CASCADE
        ) WITHOUT ROWID;
        -- What the rider felt, and the score called.
        ALTER TABLE session ADD COLUMN felt TEXT NOT NULL DEFAULT '';
        ALTER TABLE session ADD COLUMN score REAL;",
        ),
        M::up(
            "-- Where the hoof stands in the picture, px of the footage as shown.
        ALTER TABLE mark ADD COLUMN x_px REAL;
        ALTER TABLE mark ADD COLUMN y_px REAL;
        ALTER TABLE edit_change ADD COLUMN old_x REAL;
        ALTER TABLE edit_change ADD COLUMN old_y REAL;
        ALTER TABLE edit_change ADD COLUMN new_x REAL;
        ALTER TABLE edit_change ADD COLUMN new_y REAL;",
        ),
        M::up(
            "-- What an analysis came to, under a key of everything it rests on: made anew at will.
        CREATE TABLE digest (
            clip INTEGER PRIMARY KEY REFERENCES clip (id) ON DELETE CASCADE,
            key TEXT NOT NULL,
            body TEXT NOT NULL
        ) WITHOUT ROWID;",
        ),
        M::up(
            "-- The horse's card in the coach's words, and the coach's own marks beside the measured.
        ALTER TABLE horse ADD COLUMN born INTEGER;
        ALTER TABLE horse ADD COLUMN degree INTEGER;
        ALTER TABLE horse ADD COLUMN intended_gait TEXT NOT NULL DEFAULT '';
        ALTER TABLE horse ADD COLUMN weak_side TEXT;
        ALTER TABLE horse ADD COLUMN leads TEXT NOT NULL DEFAULT '';
        ALTER TABLE horse ADD COLUMN history TEXT NOT NULL DEFAULT '';
        ALTER TABLE horse ADD COLUMN goals TEXT NOT NULL DEFAULT '';
        ALTER TABLE horse ADD COLUMN cautions TEXT NOT NULL DEFAULT '';
        CREATE TABLE coach_mark (
            session INTEGER NOT NULL REFERENCES session (id),
            gait TEXT NOT NULL,
            figure TEXT NOT NULL,
            mark REAL NOT NULL,
            PRIMARY KEY (session, gait, figure)
        ) WITHOUT ROWID;",
        ),
        M::up(
            "-- How a mark came about (JSON; NULL: stepped), and who made it.
        ALTER TABLE mark ADD COLUMN origin TEXT;
        UPDATE mark SET origin = json_object('how', 'tapped', 'rate', tap_rate)
            WHERE tap_rate IS NOT NULL;
        ALTER TABLE mark DROP COLUMN tap_rate;
        ALTER TABLE mark ADD COLUMN author TEXT NOT NULL DEFAULT 'coach';
        ALTER TABLE edit ADD COLUMN author TEXT NOT NULL DEFAULT 'coach';
        ALTER TABLE edit ADD COLUMN at_ms INTEGER NOT NULL DEFAULT 0;
        -- A mark in the journal is one JSON value.
        CREATE TABLE edit_mark (
            clip INTEGER NOT NULL,
            seq INTEGER NOT NULL,
            place INTEGER NOT NULL,
            old TEXT,
            new TEXT,
            PRIMARY KEY (clip, seq, place),
            FOREIGN KEY (clip, seq) REFERENCES edit (clip, seq) ON DELETE CASCADE
        ) WITHOUT ROWID;
        INSERT INTO edit_mark
        SELECT clip, seq, place,
            CASE WHEN old_limb IS NOT NULL THEN json_object(
                'id', mark, 'limb', old_limb, 'on_us', old_on, 'off_us', old_off,
                'origin', json(CASE WHEN old_tap IS NULL THEN json_object('how', 'stepped')
                    ELSE json_object('how', 'tapped', 'rate', old_tap) END),
                'author', 'coach',
                'hoof', json(CASE WHEN old_x IS NOT NULL THEN json_array(old_x, old_y) END)) END,
            CASE WHEN new_limb IS NOT NULL THEN json_object(
                'id', mark, 'limb', new_limb, 'on_us', new_on, 'off_us', new_off,
                'origin', json(CASE WHEN new_tap IS NULL THEN json_object('how', 'stepped')
                    ELSE json_object('how', 'tapped', 'rate', new_tap) END),
                'author', 'coach',
                'hoof', json(CASE WHEN new_x IS NOT NULL THEN json_array(new_x, new_y) END)) END
        FROM edit_change;
        DROP TABLE edit_change;
        -- The scatter of each person's hand, by the frame rate it was measured at (0: unknown).
        CREATE TABLE hand (
            person TEXT NOT NULL,
            frame_rate REAL NOT NULL,
            scatter_s REAL NOT NULL,
            PRIMARY KEY (person, frame_rate)
        ) WITHOUT ROWID;
        INSERT INTO hand SELECT 'coach', 0, CAST(value AS REAL) FROM choice
            WHERE key = 'scatter_s' AND CAST(value AS REAL) BETWEEN 0 AND 1;
        DELETE FROM choice WHERE key = 'scatter_s';
        -- What happened in a session, on the wall clock; a clip's own zero on that clock.
        CREATE TABLE session_log (
            id INTEGER PRIMARY KEY,
            session INTEGER NOT NULL REFERENCES session (id),
            at_ms INTEGER NOT NULL,
            sd_s REAL,
            kind TEXT NOT NULL,
            says TEXT NOT NULL DEFAULT '',
            about TEXT,
            author TEXT NOT NULL DEFAULT 'coach'
        );
        CREATE INDEX log_of_session ON session_log (session, at_ms);
        ALTER TABLE clip ADD COLUMN began_ms INTEGER;",
        ),
        M::up(
            "-- What a clip told of by itself, beside the footfalls that became marks (JSON).
        CREATE TABLE found (
            clip INTEGER PRIMARY KEY REFERENCES clip (id),
            body TEXT NOT NULL
        ) WITHOUT ROWID;
        -- Suggestions that wait for an answer.
        CREATE INDEX open_mark ON mark (clip) WHERE origin ->> 'answer' = 'open';",
        ),
        M::up(
            "-- The last number that was given in a table: none is given twice, so that nothing is ever taken for what
        -- has gone before it.
        CREATE TABLE given (
            kind TEXT PRIMARY KEY,
            last INTEGER NOT NULL
        ) WITHOUT ROWID;
        INSERT INTO given SELECT 'horse', coalesce(max(id), 0) FROM horse;
        INSERT INTO given SELECT 'session', coalesce(max(id), 0) FROM session;
        INSERT INTO given SELECT 'clip', coalesce(max(id), 0) FROM clip;
        INSERT INTO given SELECT 'job', coalesce(max(id), 0) FROM job;
        -- Of changes this is how many were acknowledged.
        INSERT INTO given VALUES ('change', 0);
        INSERT INTO given SELECT 'session_log', coalesce(max(id), 0) FROM session_log;
        CREATE TRIGGER horse_given AFTER INSERT ON horse BEGIN
            UPDATE given SET last = max(last, NEW.id) WHERE kind = 'horse'; END;
        CREATE TRIGGER session_given AFTER INSERT ON session BEGIN
            UPDATE given SET last = max(last, NEW.id) WHERE kind = 'session'; END;
        CREATE TRIGGER clip_given AFTER INSERT ON clip BEGIN
            UPDATE given SET last = max(last, NEW.id) WHERE kind = 'clip'; END;
        CREATE TRIGGER job_given AFTER INSERT ON job BEGIN
            UPDATE given SET last = max(last, NEW.id) WHERE kind = 'job'; END;
        CREATE TRIGGER log_given AFTER INSERT ON session_log BEGIN
            UPDATE given SET last = max(last, NEW.id) WHERE kind = 'session_log'; END;
        -- Contents whose folder may be no clip's: about to be taken in, or let go.
        CREATE TABLE loose (
            content TEXT PRIMARY KEY
        ) WITHOUT ROWID;
        -- Names of edits that were taken back and then forgotten: sent again, they are not made again.
        CREATE TABLE forgotten_edit (
            clip INTEGER NOT NULL,
            edit_id TEXT NOT NULL,
            PRIMARY KEY (clip, edit_id)
        ) WITHOUT ROWID;",
        ),
        M::up(
            "-- People besides whoever sits at this machine. None of it leaves with the yard.
        CREATE TABLE account (
            id INTEGER PRIMARY KEY AUTOINCREMENT,
            person TEXT NOT NULL UNIQUE COLLATE NOCASE,
            role TEXT NOT NULL,
            -- Hashed with its salt and cost (PHC string).
            password TEXT NOT NULL,
            under_age INTEGER NOT NULL DEFAULT 0
        );
        CREATE TABLE account_horse (
            account INTEGER NOT NULL REFERENCES account (id) ON DELETE CASCADE,
            horse INTEGER NOT NULL REFERENCES horse (id) ON DELETE CASCADE,
            PRIMARY KEY (account, horse)
        ) WITHOUT ROWID;
        -- Who is signed in where, under the hash of what the device keeps.
        CREATE TABLE signed_in (
            token TEXT PRIMARY KEY,
            account INTEGER NOT NULL REFERENCES account (id) ON DELETE CASCADE,
            began_ms INTEGER NOT NULL,
            seen_ms INTEGER NOT NULL,
            device TEXT NOT NULL
        ) WITHOUT ROWID;
        CREATE INDEX signed_in_of_account ON signed_in (account);
        -- Links that show one report or one film to whoever has them.
        CREATE TABLE link (
            id INTEGER PRIMARY KEY AUTOINCREMENT,
            token TEXT NOT NULL UNIQUE,
            session INTEGER REFERENCES session (id) ON DELETE CASCADE,
            clip INTEGER REFERENCES clip (id) ON DELETE CASCADE,
            -- Of a film: without its sound, with the rider's face hidden.
            silent INTEGER NOT NULL DEFAULT 1,
            blurred INTEGER NOT NULL DEFAULT 0,
            ends_ms INTEGER NOT NULL,
            author TEXT NOT NULL
        );
        -- Who changed what, besides marks, whose journal says it.
        CREATE TABLE act (
            id INTEGER PRIMARY KEY AUTOINCREMENT,
            at_ms INTEGER NOT NULL,
            author TEXT NOT NULL,
            did TEXT NOT NULL,
            about TEXT NOT NULL DEFAULT ''
        );",
        ),
    ])
}
