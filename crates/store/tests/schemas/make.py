#!/usr/bin/env python3
"""Writes the yard of a version of the schema that has no file here yet, as SQL: `python3 make.py`.

A file that is there stays as it is, whatever becomes of the steps in schema.rs: it is what was written to coaches' disks.
"""

import pathlib
import re
import sqlite3

HERE = pathlib.Path(__file__).parent
STEPS = re.findall(r'M::up\(\s*"([^"]*)"', (HERE / "../../src/schema.rs").read_text())


def fill(db, v):
    """One mark stepped, one tapped and moved, one taken back; and a row of whatever the version has besides."""
    put = db.executescript
    put("""
    INSERT INTO horse (id, name, withers_m) VALUES (1, 'Tinne', 1.52), (2, 'Priel', NULL);
    UPDATE horse SET removed = 1 WHERE id = 2;
    INSERT INTO session (id, horse, date, note, rider) VALUES (1, 1, '2026-03-01', 'soft ground', 'Anke');
    INSERT INTO clip (id, session, name, content, file, bytes, codec, width, height, frame_times,
                      length_s, settings, revision, remark)
    VALUES (1, 1, 'tinne', 'b', 'b.mp4', 1, 'h264', 2, 2, x'0000000000000000', 1,
            '{"slow_factor":4,"slow_confirmed":true,"rein":"left"}', 3, 'from the long side');
    INSERT INTO edit (clip, seq, edit_id, undone) VALUES (1, 1, 'one', 0), (1, 2, 'two', 0), (1, 3, 'three', 1);
    INSERT INTO choice VALUES ('keys', '{}'), ('target.1.trot.tempo', '78');
    INSERT INTO job (id, clip, kind) VALUES (1, 1, 'proxy');
    """)
    if v < 6:
        put("""
        INSERT INTO choice VALUES ('scatter_s', '0.004500');
        INSERT INTO mark (clip, id, limb, on_us, off_us, tap_rate)
        VALUES (1, 'a', 'LH', 10, 20, NULL), (1, 'b', 'RF', 30, NULL, 0.5);
        INSERT INTO edit_change (clip, seq, place, mark, new_limb, new_on, new_off, new_tap)
        VALUES (1, 1, 0, 'a', 'LH', 10, 20, NULL), (1, 1, 1, 'b', 'RF', 28, NULL, 0.5),
               (1, 3, 0, 'c', 'LF', 40, 44, NULL);
        INSERT INTO edit_change (clip, seq, place, mark, old_limb, old_on, old_tap, new_limb, new_on, new_tap)
        VALUES (1, 2, 0, 'b', 'RF', 28, 0.5, 'RF', 30, 0.5);
        """)
        if v >= 3:
            put("""
            UPDATE mark SET x_px = 1.5, y_px = 2.5 WHERE id = 'a';
            UPDATE edit_change SET new_x = 1.5, new_y = 2.5 WHERE mark = 'a';
            """)
    else:
        put("""
        INSERT INTO hand VALUES ('coach', 0, 0.0045);
        INSERT INTO mark (clip, id, limb, on_us, off_us, x_px, y_px, origin)
        VALUES (1, 'a', 'LH', 10, 20, 1.5, 2.5, NULL),
               (1, 'b', 'RF', 30, NULL, NULL, NULL, '{"how":"tapped","rate":0.5}');
        INSERT INTO edit_mark VALUES
            (1, 1, 0, NULL, '{"id":"a","limb":"LH","on_us":10,"off_us":20,"origin":{"how":"stepped"},"author":"coach","hoof":[1.5,2.5]}'),
            (1, 1, 1, NULL, '{"id":"b","limb":"RF","on_us":28,"off_us":null,"origin":{"how":"tapped","rate":0.5},"author":"coach","hoof":null}'),
            (1, 2, 0, '{"id":"b","limb":"RF","on_us":28,"off_us":null,"origin":{"how":"tapped","rate":0.5},"author":"coach","hoof":null}',
                      '{"id":"b","limb":"RF","on_us":30,"off_us":null,"origin":{"how":"tapped","rate":0.5},"author":"coach","hoof":null}'),
            (1, 3, 0, NULL, '{"id":"c","limb":"LF","on_us":40,"off_us":44,"origin":{"how":"stepped"},"author":"coach","hoof":null}');
        INSERT INTO session_log (id, session, at_ms, kind, says) VALUES (1, 1, 1772355600000, 'note', 'fresh');
        UPDATE clip SET began_ms = 1772355600000;
        """)
    if v >= 2:
        put("""
        INSERT INTO tag VALUES (1, 't', 5, NULL, '{"kind":"note"}');
        UPDATE session SET felt = 'heavy in the hand', score = 64.5;
        """)
    if v >= 4:
        put("INSERT INTO digest VALUES (1, 'key', 'body');")
    if v >= 5:
        put("""
        UPDATE horse SET born = 2014, degree = 3, goals = 'changes' WHERE id = 1;
        INSERT INTO coach_mark VALUES (1, 'trot', 'tempo', 7.0);
        """)
    if v >= 7:
        put("""
        INSERT INTO found VALUES (1, '{}');
        INSERT INTO mark (clip, id, limb, on_us, origin) VALUES
            (1, 'o', 'RH', 50, '{"how":"suggested","detector":"picture","sd_s":0.004,"answer":"open"}');
        """)
    if v >= 8:
        put("""
        UPDATE given SET last = 3 WHERE kind = 'change';
        UPDATE given SET last = 9 WHERE kind = 'horse';
        INSERT INTO forgotten_edit VALUES (1, 'four');
        """)
    if v >= 9:
        put("""
        INSERT INTO account (id, person, role, password) VALUES (1, 'Henrike', 'rider', 'a hash');
        INSERT INTO account_horse VALUES (1, 1);
        INSERT INTO act (at_ms, author, did) VALUES (1772355600000, 'coach', 'made a backup');
        """)


for version in range(1, len(STEPS) + 1):
    file = HERE / f"{version}.sql"
    if file.exists():
        continue
    db = sqlite3.connect(":memory:")
    for step in STEPS[:version]:
        db.executescript(step)
    fill(db, version)
    db.commit()
    lines = "\n".join(db.iterdump())
    file.write_text(f"{lines}\nPRAGMA user_version = {version};\n")
    print(f"{file.name}: {len(lines)} bytes")
