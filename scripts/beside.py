"""Beats by librosa, the camera's way by OpenCV, for `cargo bench --bench beside`: prints the seconds of the best of
three warmed runs on one core, then the numbers.

  beside.py beats FILE.f32 RATE HOP        times of onsets, s
  beside.py camera FILE.grey W H           2 x 3 matrices from each frame to the next
"""

import sys
import time


def best(run):
    out = run()
    least = float("inf")
    for _ in range(3):
        began = time.perf_counter()
        out = run()
        least = min(least, time.perf_counter() - began)
    return out, least


def beats(path, rate, hop):
    import librosa
    import numpy as np

    samples = np.fromfile(path, dtype="<f4")

    def run():
        return librosa.onset.onset_detect(y=samples, sr=rate, hop_length=hop, units="time")

    return best(run)


def camera(path, wide, high):
    import cv2
    import numpy as np

    cv2.setNumThreads(1)
    film = np.fromfile(path, dtype=np.uint8).reshape(-1, high, wide)

    def pair(a, b):
        corners = cv2.goodFeaturesToTrack(a, 400, 0.01, 8)
        moved, found, _ = cv2.calcOpticalFlowPyrLK(a, b, corners, None)
        kept = found.ravel() == 1
        turn, _ = cv2.estimateAffinePartial2D(
            corners[kept], moved[kept], method=cv2.RANSAC, ransacReprojThreshold=1.0
        )
        return np.eye(2, 3) if turn is None else turn

    def run():
        return [pair(film[k], film[k + 1]) for k in range(len(film) - 1)]

    turns, took = best(run)
    return np.concatenate([t.ravel() for t in turns]), took


what, file, *more = sys.argv[1:]
numbers, took = (beats if what == "beats" else camera)(file, *(int(n) for n in more))
print(took, *numbers)
