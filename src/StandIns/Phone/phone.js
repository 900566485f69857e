/* global jsQR */
// Reads codes with a library that is not ours (jsQR, Apache-2.0), as a phone would.
const [picture, says, follow, seen, live, camera] = ['picture', 'says', 'follow', 'seen', 'live', 'camera'].map((id) =>
  document.getElementById(id),
);
const screen = seen.getContext('2d', { willReadFrequently: true });

// A phone has so many dots for what it looks at; larger pictures only take longer.
const mostDots = 2400;
// Parts of the picture around the finger, from near to far.
const parts = [0.12, 0.2, 0.3, 0.45];

function told(found, nothing) {
  says.textContent = found ? `It says ${found}` : nothing;
  follow.hidden = !found || !/^https?:\/\//i.test(found);
  if (!follow.hidden) follow.href = found;
}

function readIn(x, y, width, height) {
  const dots = screen.getImageData(x, y, width, height);
  return jsQR(dots.data, dots.width, dots.height)?.data;
}

async function look(file) {
  let image;
  try {
    image = await createImageBitmap(file);
  } catch {
    told(null, 'This is no picture; choose a PNG or a JPEG.');
    return;
  }
  const scale = Math.min(1, mostDots / Math.max(image.width, image.height));
  seen.width = image.width * scale;
  seen.height = image.height * scale;
  seen.hidden = false;
  screen.fillStyle = '#fff';
  screen.fillRect(0, 0, seen.width, seen.height);
  screen.drawImage(image, 0, 0, seen.width, seen.height);
  told(readIn(0, 0, seen.width, seen.height), 'No code was read; point at one in the picture.');
}

picture.addEventListener('change', () => picture.files[0] && look(picture.files[0]));
document.addEventListener('dragover', (event) => event.preventDefault());
document.addEventListener('drop', (event) => {
  event.preventDefault();
  if (event.dataTransfer.files[0]) look(event.dataTransfer.files[0]);
});
seen.addEventListener('click', (event) => {
  const zoom = seen.width / seen.clientWidth;
  const [x, y] = [event.offsetX * zoom, event.offsetY * zoom];
  for (const part of parts) {
    const side = Math.round(Math.max(seen.width, seen.height) * part);
    const [left, top] = [Math.max(0, Math.round(x - side / 2)), Math.max(0, Math.round(y - side / 2))];
    const found = readIn(left, top, Math.min(side, seen.width - left), Math.min(side, seen.height - top));
    if (found) {
      told(found);
      return;
    }
  }
  told(null, 'There is no code where you pointed.');
});
camera.addEventListener('click', async () => {
  try {
    live.srcObject = await navigator.mediaDevices.getUserMedia({ video: { facingMode: 'environment' } });
  } catch {
    told(null, 'The camera can’t be used here; choose a picture.');
    return;
  }
  live.hidden = false;
  await live.play();
  const watch = () => {
    if (live.videoWidth) {
      seen.width = live.videoWidth;
      seen.height = live.videoHeight;
      screen.drawImage(live, 0, 0);
      const found = readIn(0, 0, seen.width, seen.height);
      if (found) {
        told(found);
        for (const track of live.srcObject.getTracks()) track.stop();
        live.hidden = true;
        return;
      }
    }
    requestAnimationFrame(watch);
  };
  watch();
});
