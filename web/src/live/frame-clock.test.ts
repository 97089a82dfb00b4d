import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

import { frameAt, FrameClock, middleOf, nearest } from "./frame-clock";

// A variable rate with a pause, as phones record.
const times = [0, 8333, 16667, 33333, 41667, 1_000_000, 1_008_333];

describe("frames by their own times", () => {
  it("shows the last frame that has begun", () => {
    expect(frameAt(times, 8332)).toBe(0);
    expect(frameAt(times, 8333)).toBe(1);
    expect(frameAt(times, 900_000)).toBe(4);
    expect(frameAt(times, -5)).toBe(0);
    expect(frameAt(times, 9e9)).toBe(6);
  });

  it("knows a reported time by its nearest frame, whatever the rounding", () => {
    for (const [k, us] of times.entries()) {
      expect(nearest(times, us - 0.4)).toBe(k);
      expect(nearest(times, us + 0.4)).toBe(k);
    }
  });

  it("aims at the middle of a frame, and every aim shows that frame", () => {
    for (const k of times.keys()) expect(frameAt(times, middleOf(times, k))).toBe(k);
    expect(middleOf(times, 4)).toBe((41667 + 1_000_000) / 2);
  });
});

/** A video that shows frames when it is told to, late or never, as real ones do. */
class FakeVideo extends EventTarget {
  readyState = 4;
  paused = true;
  ended = false;
  seeking = false;
  playbackRate = 1;
  /** Places it was sent to, s. */
  readonly sought: number[] = [];
  private at = 0;
  private callbacks = new Map<number, VideoFrameRequestCallback>();
  private next = 1;

  get currentTime() {
    return this.at;
  }

  set currentTime(s: number) {
    this.at = s;
    this.seeking = true;
    this.sought.push(s);
  }

  requestVideoFrameCallback(callback: VideoFrameRequestCallback) {
    this.callbacks.set(this.next, callback);
    return this.next++;
  }

  cancelVideoFrameCallback(id: number) {
    this.callbacks.delete(id);
  }

  play() {
    this.paused = false;
    this.dispatchEvent(new Event("play"));
    return Promise.resolve();
  }

  pause() {
    this.paused = true;
    this.dispatchEvent(new Event("pause"));
  }

  /** Ends the seek under way. */
  seeked() {
    this.seeking = false;
    this.dispatchEvent(new Event("seeked"));
  }

  /** Reports a frame by its start, µs. */
  present(us: number) {
    const due = [...this.callbacks.values()];
    this.callbacks.clear();
    for (const call of due) call(0, { mediaTime: us / 1e6 } as VideoFrameCallbackMetadata);
  }
}

const at60 = Array.from({ length: 120 }, (_, k) => Math.round((k * 1e6) / 60));
const us = (k: number) => at60[k] ?? NaN;

describe("the frame clock before a video", () => {
  let video: FakeVideo;
  let clock: FrameClock;
  let detach: () => void;
  beforeEach(() => {
    vi.useFakeTimers();
    vi.stubGlobal("window", globalThis);
    video = new FakeVideo();
    clock = new FrameClock(at60);
    detach = clock.attach(video as unknown as HTMLVideoElement);
    video.seeked();
    video.present(0);
  });
  afterEach(() => {
    detach();
    vi.useRealTimers();
    vi.unstubAllGlobals();
  });

  it("keeps the keys pressed while a late seek is under way, and goes there once it ends", () => {
    clock.step(1);
    clock.step(1);
    clock.step(3);
    expect(clock.target()).toBe(us(5));
    expect(clock.now()).toBe(us(0));
    // The first seek arrives late, with its own frame.
    video.seeked();
    video.present(us(1));
    expect(clock.snapshot()).toMatchObject({ frame: 1, seeking: true });
    expect(clock.target()).toBe(us(5));
    video.seeked();
    video.present(us(5));
    expect(clock.snapshot()).toMatchObject({ frame: 5, seeking: false });
    // Every place it was sent to shows the frame that was meant.
    expect(video.sought.map((s) => frameAt(at60, s * 1e6))).toEqual([0, 1, 5]);
  });

  it("keeps the keys pressed while the footage is on its way", () => {
    detach();
    video = new FakeVideo();
    video.readyState = 0;
    clock = new FrameClock(at60);
    detach = clock.attach(video as unknown as HTMLVideoElement);
    // Three before anything is known of the file, four when only its length is, the rest later.
    for (let k = 0; k < 3; k++) clock.step(1);
    video.readyState = 1;
    for (let k = 0; k < 4; k++) clock.step(1);
    video.readyState = 2;
    video.dispatchEvent(new Event("loadeddata"));
    for (let k = 0; k < 3; k++) clock.step(1);
    expect(clock.target()).toBe(us(10));
    for (let k = 0; k < 4; k++) {
      video.seeked();
      video.present(us(frameAt(at60, video.currentTime * 1e6)));
    }
    expect(clock.snapshot()).toMatchObject({ frame: 10, seeking: false });
  });

  it("stays on its frame when another file of the same footage takes over in mid-seek", () => {
    clock.goTo(40);
    const copy = new FakeVideo();
    detach();
    detach = clock.attach(copy as unknown as HTMLVideoElement);
    expect(clock.target()).toBe(us(40));
    copy.seeked();
    copy.present(us(40));
    expect(clock.snapshot()).toMatchObject({ frame: 40, seeking: false });
  });

  it("tries a stalled seek again elsewhere in the same frame", () => {
    clock.goTo(30);
    const before = video.sought.length;
    vi.advanceTimersByTime(900);
    expect(video.sought.length).toBe(before + 1);
    const [first, second] = video.sought.slice(-2);
    expect(first).not.toBe(second);
    for (const s of [first, second]) expect(frameAt(at60, (s ?? 0) * 1e6)).toBe(30);
    video.seeked();
    video.present(us(30));
    expect(clock.snapshot()).toMatchObject({ frame: 30, seeking: false });
    vi.advanceTimersByTime(5000);
    expect(video.sought.length).toBe(before + 1);
  });

  it("takes a frame that is never reported again as shown", () => {
    clock.goTo(12);
    video.seeked();
    // The browser keeps silent: its picture has not changed.
    for (let k = 0; k < 8; k++) {
      vi.advanceTimersByTime(850);
      video.seeked();
    }
    expect(clock.snapshot()).toMatchObject({ frame: 12, seeking: false });
  });

  it("begins a loop again at its end, and not before", () => {
    clock.loop({ from: us(10), to: us(20), rate: 0.25 });
    expect(video.playbackRate).toBe(0.25);
    const begun = video.sought.length;
    for (const k of [10, 15, 19]) video.present(us(k));
    expect(video.sought.length).toBe(begun);
    video.present(us(20));
    expect(video.sought.length).toBe(begun + 1);
    expect(frameAt(at60, video.currentTime * 1e6 + 1)).toBe(10);
    clock.loop(null);
    expect(video.paused).toBe(true);
  });

  it("stands where it stood when the same time comes twice", () => {
    clock.goTo(7);
    video.seeked();
    video.present(us(7));
    const told = vi.fn();
    clock.subscribe(told);
    video.present(us(7));
    clock.goTo(7);
    video.seeked();
    expect(clock.snapshot()).toMatchObject({ frame: 7, seeking: false, playing: false });
    expect(clock.now()).toBe(us(7));
  });

  it("reads a copy whose clock runs behind by what it is told", () => {
    detach();
    const shifted = at60.map((t) => t + 80_000);
    clock = new FrameClock(shifted);
    detach = clock.attach(video as unknown as HTMLVideoElement, 80_000);
    video.seeked();
    video.present(us(0));
    clock.goTo(4);
    expect(frameAt(at60, video.currentTime * 1e6)).toBe(4);
    video.seeked();
    video.present(us(4));
    expect(clock.now()).toBe(us(4) + 80_000);
  });
});
