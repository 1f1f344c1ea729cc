// What is heard and felt: a tone, a shake. Where a device has neither, the words are there all the same.
/** @type {AudioContext} */
let context;

let quiet = false;
/** Neither sound nor shaking from now on, or both again. @param {boolean} on */
export const hush = (on) => { quiet = on; };

/** Who wants to know that the phone itself sounds: told for how many seconds. @type {((seconds: number) => void)[]} */
const listeners = [];
/** @param {(seconds: number) => void} listener */
export const onSound = (listener) => { listeners.push(listener); };
const sounds = (seconds) => { for (const listener of listeners) listener(seconds); };

const TONE_S = 0.12;
const SPOKEN_S = 2; // a call is a word or two

/** @param {number} pitch in hertz */
export const beep = (pitch) => {
  if (quiet) return;
  sounds(TONE_S);
  try {
    const sound = (context = context || new AudioContext());
    const tone = sound.createOscillator();
    tone.frequency.value = pitch;
    tone.connect(sound.destination);
    tone.start();
    tone.stop(sound.currentTime + TONE_S);
  } catch { /* no sound here */ }
};

/** @param {number | number[]} pattern in milliseconds */
export const shake = (pattern) => { if (!quiet && navigator.vibrate) navigator.vibrate(pattern); };

/** @type {WakeLockSentinel | null} */
let awake = null;
// the screen stays on while somebody counts, where the device can do that
export const stayAwake = async () => {
  if (awake || !navigator.wakeLock) return;
  try {
    awake = await navigator.wakeLock.request("screen");
    awake.addEventListener("release", () => { awake = null; });
  } catch { /* a low battery, or not allowed */ }
};

/** Said by a voice of the device itself; false where there is none. */
export const speak = (words) => {
  const voices = window.speechSynthesis?.getVoices() ?? [];
  if (!voices.some((voice) => voice.localService)) return false;
  sounds(SPOKEN_S);
  speechSynthesis.speak(new SpeechSynthesisUtterance(words));
  return true;
};
