// A chart as PNG: the server's SVG, drawn at twice its size by the browser.
const SCALE = 2;

/** @param {string} address */
async function drawn(address) {
  const image = new Image();
  image.src = address;
  await image.decode();
  const canvas = document.createElement("canvas");
  canvas.width = image.naturalWidth * SCALE;
  canvas.height = image.naturalHeight * SCALE;
  canvas.getContext("2d")?.drawImage(image, 0, 0, canvas.width, canvas.height);
  return new Promise((done) => canvas.toBlob(done, "image/png"));
}

/** Links with data-png hand over the picture; without scripts they hand over the SVG. */
export function pictures() {
  document.addEventListener("click", async (event) => {
    const link = /** @type {HTMLAnchorElement | null} */ (
      /** @type {Element} */ (event.target).closest("a[data-png]")
    );
    if (!link) return;
    event.preventDefault();
    const blob = await drawn(link.href);
    const file = document.createElement("a");
    file.href = URL.createObjectURL(blob);
    file.download = link.dataset.png ?? "chart.png";
    file.click();
    link.dataset.bytes = String(blob.size);
    setTimeout(() => URL.revokeObjectURL(file.href), 10000);
  });
}
