import type { AlertKind } from '@/core/alerts';

/** Notes of each kind of alert: frequency in Hz, start and length in seconds. Each kind can be told by ear alone. */
const MOTIFS: Record<AlertKind, readonly [hz: number, at: number, long: number][]> = {
  price: [
    [660, 0, 0.12],
    [880, 0.14, 0.22],
  ],
  rule: [
    [740, 0, 0.1],
    [740, 0.16, 0.1],
    [990, 0.32, 0.2],
  ],
  entrant: [[523, 0, 0.35]],
  news: [
    [988, 0, 0.08],
    [784, 0.1, 0.08],
    [988, 0.2, 0.18],
  ],
  halt: [
    [220, 0, 0.28],
    [165, 0.3, 0.4],
  ],
  condition: [
    [587, 0, 0.1],
    [880, 0.12, 0.1],
    [1175, 0.24, 0.26],
  ],
  resume: [
    [165, 0, 0.2],
    [220, 0.22, 0.2],
    [330, 0.44, 0.3],
  ],
};

let audio: AudioContext | null = null;

/** Plays the motif of a kind, made of sine tones. `volume` 0 to 1. Does nothing where the browser allows no sound yet. */
export function play(kind: AlertKind, volume: number): void {
  if (volume <= 0) return;
  audio ??= new AudioContext();
  if (audio.state === 'suspended') void audio.resume().catch(() => {});
  for (const [hz, at, long] of MOTIFS[kind]) {
    const start = audio.currentTime + at;
    const tone = audio.createOscillator();
    const level = audio.createGain();
    tone.frequency.value = hz;
    level.gain.setValueAtTime(0, start);
    level.gain.linearRampToValueAtTime(volume * 0.3, start + 0.015);
    level.gain.exponentialRampToValueAtTime(0.001, start + long);
    tone.connect(level).connect(audio.destination);
    tone.start(start);
    tone.stop(start + long);
  }
}
