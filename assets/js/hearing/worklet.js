// The ear in the audio thread: what comes in from the microphone is heard and forgotten at once. Only numbers leave here:
// how many it has learnt from, moments of hits, and how loud it is. (Built as a file of its own: js/ear.js.)
import { Ear, gapOf } from "./ear.js";

const TELL_S = 0.1;
const scope = /** @type {any} */ (globalThis);

class EarProcessor extends scope.AudioWorkletProcessor {
  constructor({ processorOptions }) {
    super();
    this.gap = gapOf(processorOptions.most);
    this.ear = new Ear(scope.sampleRate, this.gap);
    this.samples = 0;
    this.told = 0;
    this.port.onmessage = ({ data }) => {
      if (data.deafen) this.ear.deafen(data.deafen);
      if (data.anew) { this.ear = new Ear(scope.sampleRate, this.gap); this.samples = 0; this.told = 0; }
    };
  }

  /** @param {Float32Array[][]} inputs */
  process(inputs) {
    const samples = inputs[0][0];
    if (!samples) return true;
    const before = this.ear.learning.length;
    const hits = this.ear.push(samples).map((hit) => hit.at);
    this.samples += samples.length;
    const now = this.samples / scope.sampleRate;
    if (hits.length || this.ear.learning.length !== before || now - this.told >= TELL_S) {
      this.told = now;
      const { learnt, learning, tooLoud, level } = this.ear;
      this.port.postMessage({ now, hits, learning: learning.length, learnt: learnt !== null, tooLoud, level });
    }
    return true;
  }
}

scope.registerProcessor("ear", EarProcessor);
