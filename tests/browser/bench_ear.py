"""`./ladder bench --ear`: what the ear takes of a processor, in the browser's own audio thread:
half a minute of a hall is rendered with it and without it, at the rate of a phone's microphone.
A phone four times slower takes four times as long. Fails over a tenth of such a phone's core.
"""

from statistics import median

import numpy as np
from django.contrib.staticfiles.storage import staticfiles_storage
from scipy.signal import resample_poly

from drill_ladder.core.hall.sounds import RATE, Scene, record
from tests.browser.hands import phone

SECONDS, AT, SLOWER, MOST, ROUNDS = 30, 48_000, 4, 0.1, 7
RENDER = """
const [samples, rate, address, listens, told] = arguments;
(async () => {
  const context = new OfflineAudioContext(1, samples.length, rate);
  const buffer = context.createBuffer(1, samples.length, rate);
  buffer.copyToChannel(Float32Array.from(samples), 0);
  const source = context.createBufferSource();
  source.buffer = buffer;
  let messages = 0;
  if (listens) {
    await context.audioWorklet.addModule(address);
    const node = new AudioWorkletNode(context, "ear", { processorOptions: { most: 4 } });
    node.port.onmessage = ({ data }) => { messages += data.hits.length; };
    source.connect(node).connect(context.destination);
  } else source.connect(context.destination);
  source.start();
  const before = performance.now();
  await context.startRendering();
  const took = performance.now() - before;
  setTimeout(() => told([took, messages]), 300);
})();
"""


def test_what_the_ear_takes_of_a_slow_phone(browser, live_server):
    made = record(Scene(3, "wall", "voices", 20, 2.5), seconds=SECONDS)
    samples = np.round(resample_poly(made.samples, AT // 100, RATE // 100), 5).tolist()
    phone(browser)
    browser.get(f"{live_server.url}/accounts/login/")
    address = live_server.url + staticfiles_storage.url("js/ear.js")
    took = {True: [], False: []}
    for _ in range(ROUNDS):
        for listens in (True, False):
            ms, hits = browser.execute_async_script(RENDER, samples, AT, address, listens)
            took[listens].append(ms)
            assert bool(hits) == listens
    share = (median(took[True]) - median(took[False])) / 1000 / SECONDS
    print(
        f"\nThe ear takes {share:.2%} of this machine's core, {SLOWER * share:.2%} of one ", end=""
    )
    print(f"four times slower (at most {MOST:.0%}); {SECONDS} s rendered {ROUNDS} times.")
    assert SLOWER * share <= MOST
