// The microphone, opened only while somebody counts by ear. Its sound goes into the worklet and nowhere else: no recorder,
// no buffer, no request. What comes back are numbers.

/** Why nothing can be heard: no secure address, refused, no microphone, or anything else. */
export const INSECURE = "insecure";
export const REFUSED = "refused";
export const NONE = "none";
export const BROKEN = "broken";

const NAMED = { NotAllowedError: REFUSED, SecurityError: REFUSED, NotFoundError: NONE, OverconstrainedError: NONE };
// what a phone does to make speech clearer takes hits away
const PLAIN = { audio: { echoCancellation: false, noiseSuppression: false, autoGainControl: false, channelCount: 1 }, video: false };

/** @typedef {{ now: number, hits: number[], learning: number, learnt: boolean, tooLoud: boolean, level: number }} Heard */

export class Listening {
  /** @param {string} worklet its address @param {number} most hits a second @param {(heard: Heard & { until: number, moments: number[] }) => void} tell */
  constructor(worklet, most, tell) {
    this.worklet = worklet;
    this.most = most;
    this.tell = tell;
    /** @type {MediaStream | null} */
    this.stream = null;
    /** @type {AudioContext | null} */
    this.context = null;
    /** @type {AudioWorkletNode | null} */
    this.node = null;
    this.begun = Infinity; // when its first sample was, on the page's clock, ms
  }

  /** Asks for the microphone, and listens; "" or why it cannot. */
  async open() {
    if (!isSecureContext) return INSECURE;
    if (!navigator.mediaDevices?.getUserMedia || !window.AudioWorkletNode) return BROKEN;
    try {
      this.stream = await navigator.mediaDevices.getUserMedia(PLAIN);
      this.context = new AudioContext();
      await this.context.audioWorklet.addModule(this.worklet);
      if (!this.stream) return BROKEN; // closed meanwhile
      this.node = new AudioWorkletNode(this.context, "ear", { numberOfOutputs: 0, processorOptions: { most: this.most } });
      this.node.port.onmessage = ({ data }) => this.heard(data);
      this.context.createMediaStreamSource(this.stream).connect(this.node);
      await this.context.resume();
      return "";
    } catch (error) {
      this.close();
      return NAMED[/** @type {any} */ (error).name] ?? BROKEN;
    }
  }

  /** @param {Heard} data */
  heard(data) {
    // the message that was under way for the shortest time tells best when the first sample was
    this.begun = Math.min(this.begun, performance.now() - data.now * 1000);
    const onPage = (at) => this.begun + at * 1000;
    this.tell({ ...data, until: onPage(data.now), moments: data.hits.map(onPage) });
  }

  /** The phone itself sounds for so long. @param {number} seconds */
  deafen(seconds) { this.node?.port.postMessage({ deafen: seconds }); }

  /** Learn anew what a hit sounds like. */
  anew() {
    this.begun = Infinity;
    this.node?.port.postMessage({ anew: true });
  }

  close() {
    this.stream?.getTracks().forEach((track) => track.stop());
    this.node?.port.close();
    this.node?.disconnect();
    if (this.context?.state !== "closed") this.context?.close();
    Object.assign(this, { stream: null, context: null, node: null });
  }
}
