BEGIN TRANSACTION;
CREATE TABLE choice (
            key TEXT PRIMARY KEY,
            value TEXT NOT NULL
        ) WITHOUT ROWID;
INSERT INTO "choice" VALUES('keys','{}');
INSERT INTO "choice" VALUES('scatter_s','0.004500');
INSERT INTO "choice" VALUES('target.1.trot.tempo','78');
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
INSERT INTO "clip" VALUES(1,1,'tinne','b','b.mp4',1,'h264',2,2,NULL,X'0000000000000000',1.0,0,NULL,NULL,NULL,'{"slow_factor":4,"slow_confirmed":true,"rein":"left"}','pending',0,'from the long side',3,0);
CREATE TABLE digest (
            clip INTEGER PRIMARY KEY REFERENCES clip (id) ON DELETE CASCADE,
            key TEXT NOT NULL,
            body TEXT NOT NULL
        ) WITHOUT ROWID;
INSERT INTO "digest" VALUES(1,'key','body');
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
INSERT INTO "edit" VALUES(1,1,'one',0,NULL,NULL);
INSERT INTO "edit" VALUES(1,2,'two',0,NULL,NULL);
INSERT INTO "edit" VALUES(1,3,'three',1,NULL,NULL);
CREATE TABLE edit_change (
            clip INTEGER NOT NULL,
            seq INTEGER NOT NULL,
            place INTEGER NOT NULL,
            mark TEXT NOT NULL,
            old_limb TEXT, old_on INTEGER, old_off INTEGER, old_tap REAL,
            new_limb TEXT, new_on INTEGER, new_off INTEGER, new_tap REAL, old_x REAL, old_y REAL, new_x REAL, new_y REAL,
            PRIMARY KEY (clip, seq, place),
            FOREIGN KEY (clip, seq) REFERENCES edit (clip, seq) ON DELETE CASCADE
        ) WITHOUT ROWID;
INSERT INTO "edit_change" VALUES(1,1,0,'a',NULL,NULL,NULL,NULL,'LH',10,20,NULL,NULL,NULL,1.5,2.5);
INSERT INTO "edit_change" VALUES(1,1,1,'b',NULL,NULL,NULL,NULL,'RF',28,NULL,0.5,NULL,NULL,NULL,NULL);
INSERT INTO "edit_change" VALUES(1,2,0,'b','RF',28,NULL,0.5,'RF',30,NULL,0.5,NULL,NULL,NULL,NULL);
INSERT INTO "edit_change" VALUES(1,3,0,'c',NULL,NULL,NULL,NULL,'LF',40,44,NULL,NULL,NULL,NULL,NULL);
CREATE TABLE edit_tag (
            clip INTEGER NOT NULL,
            seq INTEGER NOT NULL,
            place INTEGER NOT NULL,
            old TEXT,
            new TEXT,
            PRIMARY KEY (clip, seq, place),
            FOREIGN KEY (clip, seq) REFERENCES edit (clip, seq) ON DELETE CASCADE
        ) WITHOUT ROWID;
CREATE TABLE horse (
            id INTEGER PRIMARY KEY,
            name TEXT NOT NULL,
            withers_m REAL,
            gaited INTEGER NOT NULL DEFAULT 0,
            removed INTEGER NOT NULL DEFAULT 0
        );
INSERT INTO "horse" VALUES(1,'Tinne',1.52,0,0);
INSERT INTO "horse" VALUES(2,'Priel',NULL,0,1);
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
INSERT INTO "job" VALUES(1,1,'proxy','waiting',0.0,0,0,'');
CREATE TABLE mark (
            clip INTEGER NOT NULL REFERENCES clip (id),
            id TEXT NOT NULL,
            limb TEXT NOT NULL,
            on_us INTEGER NOT NULL,
            off_us INTEGER,
            tap_rate REAL, x_px REAL, y_px REAL,
            PRIMARY KEY (clip, id)
        ) WITHOUT ROWID;
INSERT INTO "mark" VALUES(1,'a','LH',10,20,NULL,1.5,2.5);
INSERT INTO "mark" VALUES(1,'b','RF',30,NULL,0.5,NULL,NULL);
CREATE TABLE seen_file (
            path TEXT PRIMARY KEY,
            bytes INTEGER NOT NULL,
            changed INTEGER NOT NULL
        ) WITHOUT ROWID;
CREATE TABLE session (
            id INTEGER PRIMARY KEY,
            horse INTEGER NOT NULL REFERENCES horse (id),
            date TEXT NOT NULL,
            note TEXT NOT NULL DEFAULT '',
            rider TEXT NOT NULL DEFAULT '',
            arena TEXT NOT NULL DEFAULT '',
            surface TEXT NOT NULL DEFAULT '',
            removed INTEGER NOT NULL DEFAULT 0
        , felt TEXT NOT NULL DEFAULT '', score REAL);
INSERT INTO "session" VALUES(1,1,'2026-03-01','soft ground','Anke','','',0,'heavy in the hand',64.5);
CREATE TABLE tag (
            clip INTEGER NOT NULL REFERENCES clip (id),
            id TEXT NOT NULL,
            from_us INTEGER NOT NULL,
            to_us INTEGER,
            what TEXT NOT NULL,
            PRIMARY KEY (clip, id)
        ) WITHOUT ROWID;
INSERT INTO "tag" VALUES(1,'t',5,NULL,'{"kind":"note"}');
CREATE TABLE upload (
            id TEXT PRIMARY KEY,
            session INTEGER REFERENCES session (id),
            name TEXT NOT NULL,
            bytes INTEGER NOT NULL
        );
CREATE INDEX session_of_horse ON session (horse, date);
CREATE INDEX clip_by_content ON clip (content);
CREATE INDEX clip_of_session ON clip (session);
CREATE INDEX job_by_state ON job (state, id);
CREATE INDEX job_of_clip ON job (clip);
COMMIT;
PRAGMA user_version = 4;
