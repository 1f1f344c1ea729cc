// Hears the samples that come in on stdin (float32, little-endian), for tests/core/test_hearing.py: rate and gap are the
// arguments -> what was learnt from and what was heard, in seconds. They come in blocks of 128, as a worklet gets them.
import { readFileSync } from "node:fs";
import { Ear } from "../../assets/js/hearing/ear.js";

const [rate, gap] = process.argv.slice(2).map(Number);
const bytes = readFileSync(0);
const samples = new Float32Array(bytes.buffer, bytes.byteOffset, bytes.length / 4);
const ear = new Ear(rate, gap);
const hits = [];
let tooLoud = false;
for (let i = 0; i < samples.length; i += 128) {
  hits.push(...ear.push(samples.subarray(i, i + 128)).map((hit) => hit.at));
  tooLoud ||= ear.tooLoud;
}
console.log(JSON.stringify({ learnt: ear.learning.map(({ hit }) => hit.at), hits, too_loud: tooLoud }));
