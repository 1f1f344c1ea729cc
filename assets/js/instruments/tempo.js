// The tempo of a rung: told, tagged on each set, and kept by a metronome that is heard and felt.
import { beep, shake } from "../sound.js";

/**
 * @typedef {{ tempo: string, ticking: boolean, ticker: number | null, $root?: any, initTempo(): void, useTempo(percent: string): void,
 *   isTempo(percent: string): boolean, beatEvery(): number, beatOnce(): void, earBusy?(): boolean, toggleTicking(): void, stopTicking(): void }} Tempoed
 */

/** @type {Tempoed} */
export const tempoed = {
  tempo: "", // percent of full speed, empty where the rung asks for none
  ticking: false,
  ticker: null,

  initTempo() { this.tempo = this.$root.dataset.tempo ?? ""; },
  useTempo(percent) {
    this.tempo = percent;
    if (!this.ticking) return;
    this.stopTicking();
    this.toggleTicking();
  },
  isTempo(percent) { return this.tempo === percent; },
  // the pace of the rung is that of its own tempo: half as fast takes twice as long
  beatEvery() {
    const { pace, asked } = this.$root.dataset;
    return (Number(pace) || 0) * 1000 * ((Number(asked) || 100) / (Number(this.tempo) || 100));
  },
  toggleTicking() {
    if (this.ticking) { this.stopTicking(); return; }
    const every = this.beatEvery();
    if (!every) return;
    this.ticking = true;
    this.ticker = setInterval(() => this.beatOnce(), every);
  },
  // while the phone listens its own beat is only felt
  beatOnce() {
    if (!this.earBusy?.()) beep(550);
    shake(20);
  },
  stopTicking() {
    clearInterval(this.ticker);
    Object.assign(this, { ticker: null, ticking: false });
  },
};
