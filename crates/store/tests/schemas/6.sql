BEGIN TRANSACTION;
CREATE TABLE choice (
            key TEXT PRIMARY KEY,
            value TEXT NOT NULL
        ) WITHOUT ROWID;
INSERT INTO "choice" VALUES('keys','{}');
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
        , began_ms INTEGER);
INSERT INTO "clip" VALUES(1,1,'tinne','b','b.mp4',1,'h264',2,2,NULL,X'0000000000000000',1.0,0,NULL,NULL,NULL,'{"slow_factor":4,"slow_confirmed":true,"rein":"left"}','pending',0,'from the long side',3,0,1772355600000);
CREATE TABLE coach_mark (
            session INTEGER NOT NULL REFERENCES session (id),
            gait TEXT NOT NULL,
            figure TEXT NOT NULL,
            mark REAL NOT NULL,
            PRIMARY KEY (session, gait, figure)
        ) WITHOUT ROWID;
INSERT INTO "coach_mark" VALUES(1,'trot','tempo',7.0);
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
            new_settings TEXT, author TEXT NOT NULL DEFAULT 'coach', at_ms INTEGER NOT NULL DEFAULT 0,
            PRIMARY KEY (clip, seq),
            UNIQUE (clip, edit_id)
        );
INSERT INTO "edit" VALUES(1,1,'one',0,NULL,NULL,'coach',0);
INSERT INTO "edit" VALUES(1,2,'two',0,NULL,NULL,'coach',0);
INSERT INTO "edit" VALUES(1,3,'three',1,NULL,NULL,'coach',0);
CREATE TABLE edit_mark (
            clip INTEGER NOT NULL,
            seq INTEGER NOT NULL,
            place INTEGER NOT NULL,
            old TEXT,
            new TEXT,
            PRIMARY KEY (clip, seq, place),
            FOREIGN KEY (clip, seq) REFERENCES edit (clip, seq) ON DELETE CASCADE
        ) WITHOUT ROWID;
INSERT INTO "edit_mark" VALUES(1,1,0,NULL,'{"id":"a","limb":"LH","on_us":10,"off_us":20,"origin":{"how":"stepped"},"author":"coach","hoof":[1.5,2.5]}');
INSERT INTO "edit_mark" VALUES(1,1,1,NULL,'{"id":"b","limb":"RF","on_us":28,"off_us":null,"origin":{"how":"tapped","rate":0.5},"author":"coach","hoof":null}');
INSERT INTO "edit_mark" VALUES(1,2,0,'{"id":"b","limb":"RF","on_us":28,"off_us":null,"origin":{"how":"tapped","rate":0.5},"author":"coach","hoof":null}','{"id":"b","limb":"RF","on_us":30,"off_us":null,"origin":{"how":"tapped","rate":0.5},"author":"coach","hoof":null}');
INSERT INTO "edit_mark" VALUES(1,3,0,NULL,'{"id":"c","limb":"LF","on_us":40,"off_us":44,"origin":{"how":"stepped"},"author":"coach","hoof":null}');
CREATE TABLE edit_tag (
            clip INTEGER NOT NULL,
            seq INTEGER NOT NULL,
            place INTEGER NOT NULL,
            old TEXT,
            new TEXT,
            PRIMARY KEY (clip, seq, place),
            FOREIGN KEY (clip, seq) REFERENCES edit (clip, seq) ON DELETE CASCADE
        ) WITHOUT ROWID;
CREATE TABLE hand (
            person TEXT NOT NULL,
            frame_rate REAL NOT NULL,
            scatter_s REAL NOT NULL,
            PRIMARY KEY (person, frame_rate)
        ) WITHOUT ROWID;
INSERT INTO "hand" VALUES('coach',0.0,0.0045);
CREATE TABLE horse (
            id INTEGER PRIMARY KEY,
            name TEXT NOT NULL,
            withers_m REAL,
            gaited INTEGER NOT NULL DEFAULT 0,
            removed INTEGER NOT NULL DEFAULT 0
        , born INTEGER, degree INTEGER, intended_gait TEXT NOT NULL DEFAULT '', weak_side TEXT, leads TEXT NOT NULL DEFAULT '', history TEXT NOT NULL DEFAULT '', goals TEXT NOT NULL DEFAULT '', cautions TEXT NOT NULL DEFAULT '');
INSERT INTO "horse" VALUES(1,'Tinne',1.52,0,0,2014,3,'',NULL,'','','changes','');
INSERT INTO "horse" VALUES(2,'Priel',NULL,0,1,NULL,NULL,'',NULL,'','','','');
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
            x_px REAL, y_px REAL, origin TEXT, author TEXT NOT NULL DEFAULT 'coach',
            PRIMARY KEY (clip, id)
        ) WITHOUT ROWID;
INSERT INTO "mark" VALUES(1,'a','LH',10,20,1.5,2.5,NULL,'coach');
INSERT INTO "mark" VALUES(1,'b','RF',30,NULL,NULL,NULL,'{"how":"tapped","rate":0.5}','coach');
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
INSERT INTO "session_log" VALUES(1,1,1772355600000,NULL,'note','fresh',NULL,'coach');
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
CREATE INDEX log_of_session ON session_log (session, at_ms);
COMMIT;
PRAGMA user_version = 6;
