import { Observable } from "./observable";

/**
 * Which frame is on the screen, by the frame's own timestamp, and how to get to another one.
 *
 * Frames are known by their place in the list of presentation times (µs) read from the file. The
 * browser tells which frame it has shown (`requestVideoFrameCallback`); it is never worked out
 * from the playback rate. A seek aims at the middle of a frame: its borders round either way.
 */
export class FrameClock extends Observable<FrameState> {
  readonly times: readonly number[];
  /** What is to be added to a time of the video for that of the list, µs. */
  private shift = 0;
  private video: HTMLVideoElement | null = null;
  private callback = 0;
  private watchdog = 0;
  /** The tick under way of a ride without footage. */
  private bare: number | null = null;
  /** Frame to go to, until it is on screen. */
  private wanted: number | null = null;
  /** Frame that the browser has reported last. */
  private presented: number | null = null;
  /** Frame that the seek under way goes to. */
  private aim: number | null = null;

  constructor(times: readonly number[]) {
    super({ frame: 0, playing: false, rate: 1, ready: false, seeking: false, looping: null });
    this.times = times;
  }

  /** Takes over a video element whose clock runs `shift` µs behind the list's; gives what undoes
   * it. */
  attach(video: HTMLVideoElement, shift = 0): () => void {
    this.video = video;
    this.shift = shift;
    this.aim = null;
    this.presented = null;
    let shows = false;
    const show = () => {
      shows = true;
      video.playbackRate = this.state.rate;
      // Keys pressed while the footage was on its way count from where they led.
      this.wanted ??= this.state.frame;
      this.set({ seeking: true });
      this.seek();
    };
    const onSeeked = () => {
      const aimed = this.aim;
      this.aim = null;
      // The coach went on while the seek was under way.
      if (this.wanted !== null && this.wanted !== aimed) this.seek();
      // A seek within the frame on screen need not bring a new one.
      else if (aimed !== null && aimed === this.presented) this.arrived(aimed);
    };
    const onState = () => this.set({ playing: !video.paused && !video.ended });
    const onFrame: VideoFrameRequestCallback = (_, meta) => {
      this.callback = video.requestVideoFrameCallback(onFrame);
      // The first picture of a file that takes over is not where the coach was.
      if (!shows) return;
      // A presented frame reports its start, give or take the rounding of a double.
      this.presented = nearest(this.times, meta.mediaTime * 1e6 + shift);
      this.arrived(this.presented);
    };
    this.callback = video.requestVideoFrameCallback(onFrame);
    video.addEventListener("loadeddata", show);
    video.addEventListener("seeked", onSeeked);
    for (const name of ["play", "pause", "ended"]) video.addEventListener(name, onState);
    if (video.readyState >= 2) show();
    return () => {
      video.cancelVideoFrameCallback(this.callback);
      clearTimeout(this.watchdog);
      video.removeEventListener("loadeddata", show);
      video.removeEventListener("seeked", onSeeked);
      for (const name of ["play", "pause", "ended"]) video.removeEventListener(name, onState);
      this.video = null;
    };
  }

  /** Time of the frame on screen, µs. */
  now(): number {
    return this.times[this.state.frame] ?? 0;
  }

  /** Time of the frame on its way to the screen, or on it, µs: where the next move starts. */
  target(): number {
    return this.times[this.wanted ?? this.state.frame] ?? 0;
  }

  /** Goes `n` frames on, or back. */
  step(n: number): void {
    this.goTo((this.wanted ?? this.state.frame) + n);
  }

  /** Goes to a frame and stays there. */
  goTo(frame: number): void {
    const last = this.times.length - 1;
    this.wanted = Math.min(Math.max(frame, 0), last);
    this.set({ looping: null });
    this.video?.pause();
    this.stopBare();
    if (!this.video || this.video.readyState < 1) {
      // Nothing to show yet: the frame is shown once the footage is there.
      this.set({ frame: this.wanted });
      return;
    }
    this.set({ seeking: true });
    if (this.aim === null) this.seek();
  }

  /** Goes to the frame on screen at a time, µs. */
  goToTime(us: number): void {
    this.goTo(frameAt(this.times, us));
  }

  /** Plays or stops. */
  toggle(): void {
    const video = this.video;
    if (!video) {
      if (this.state.playing) this.stopBare();
      else this.playBare();
      return;
    }
    if (video.paused) {
      this.wanted = null;
      this.set({ seeking: false });
      if (video.ended) video.currentTime = 0;
      void video.play().catch(() => this.set({ playing: false }));
    } else {
      this.set({ looping: null });
      video.pause();
    }
  }

  /** Plays a ride without footage by the screen's own clock. */
  private playBare(): void {
    let before: number | null = null;
    let us = this.now();
    const tick = (at: number) => {
      if (before !== null) us += (at - before) * 1000 * this.state.rate;
      before = at;
      const frame = frameAt(this.times, us);
      this.set({ frame });
      if (frame >= this.times.length - 1) this.stopBare();
      else this.bare = requestAnimationFrame(tick);
    };
    this.wanted = null;
    this.set({ playing: true });
    this.bare = requestAnimationFrame(tick);
  }

  private stopBare(): void {
    if (this.bare === null) return;
    cancelAnimationFrame(this.bare);
    this.bare = null;
    this.set({ playing: false });
  }

  /** Plays a stretch over and over at a rate; nothing: plays on as before. */
  loop(stretch: { from: number; to: number; rate: number } | null): void {
    const video = this.video;
    this.set({ looping: stretch });
    if (!video || !stretch) {
      video?.pause();
      return;
    }
    this.setRate(stretch.rate);
    this.wanted = null;
    this.set({ seeking: false });
    video.currentTime = (stretch.from - this.shift) / 1e6;
    void video.play().catch(() => this.set({ playing: false }));
  }

  /** Sets the playback rate, 1 for the file's own. */
  setRate(rate: number): void {
    if (this.video) this.video.playbackRate = rate;
    this.set({ rate });
  }

  private seek(tries = 0): void {
    const video = this.video;
    if (!video || this.wanted === null) return;
    this.aim = this.wanted;
    const middle = middleOf(this.times, this.wanted);
    // A seek that never ends (a stalled connection), or whose frame is not reported, is tried again
    // at another place in the same frame.
    const aside = ((tries % 3) * (middle - (this.times[this.wanted] ?? middle))) / 4;
    video.currentTime = (middle - aside - this.shift) / 1e6;
    clearTimeout(this.watchdog);
    this.watchdog = window.setTimeout(() => {
      if (this.wanted === null || !this.video) return;
      if (tries < 3 || this.video.seeking) this.seek(tries + 1);
      // Nothing is reported though the seeks have ended: the frame has been on screen all along.
      else this.arrived(frameAt(this.times, this.video.currentTime * 1e6 + this.shift));
    }, STALLED_MS);
  }

  private arrived(frame: number): void {
    this.set({ frame, ready: true });
    const { looping, playing } = this.state;
    if (looping && playing && this.video && (this.times[frame] ?? 0) >= looping.to) {
      this.video.currentTime = (looping.from - this.shift) / 1e6;
    }
    if (this.state.playing || this.wanted === null) return;
    if (this.wanted === frame) {
      this.wanted = null;
      clearTimeout(this.watchdog);
      this.set({ seeking: false });
    }
  }

  private set(change: Partial<FrameState>): void {
    const next = { ...this.state, ...change };
    const keys = Object.keys(change) as (keyof FrameState)[];
    if (keys.every((key) => next[key] === this.state[key])) return;
    this.put(next);
  }
}

/** A seek that takes this long has stalled, ms. */
const STALLED_MS = 800;

export type FrameState = {
  /** Place of the frame on screen in the list of times. */
  readonly frame: number;
  readonly playing: boolean;
  readonly rate: number;
  /** A frame has been shown. */
  readonly ready: boolean;
  /** Another frame is on its way to the screen. */
  readonly seeking: boolean;
  /** The stretch that is played over and over, µs. */
  readonly looping: { readonly from: number; readonly to: number; readonly rate: number } | null;
};

/** Place of the frame on screen at a time: the last that starts at or before it. */
export function frameAt(times: readonly number[], us: number): number {
  let low = 0;
  let high = times.length;
  while (low < high) {
    const mid = (low + high) >> 1;
    if ((times[mid] ?? 0) <= us) low = mid + 1;
    else high = mid;
  }
  return Math.max(0, low - 1);
}

/** Place of the frame whose start is nearest to a time. */
export function nearest(times: readonly number[], us: number): number {
  const k = frameAt(times, us);
  const here = Math.abs((times[k] ?? 0) - us);
  const next = Math.abs((times[k + 1] ?? Infinity) - us);
  return next < here ? k + 1 : k;
}

/** Middle of a frame, µs; the last frame lasts as long as the one before it. */
export function middleOf(times: readonly number[], frame: number): number {
  const here = times[frame] ?? 0;
  const next = times[frame + 1];
  if (next !== undefined) return (here + next) / 2;
  const before = times[frame - 1];
  return before === undefined ? here : here + (here - before) / 2;
}
