/** What a spin viewer is of. */
export interface SpinPage {
  title: string;
  width: number;
  height: number;
  /** Pictures in each row, the lowest first. */
  rows: readonly number[];
  /** Colour behind the pictures, as #rrggbb; null leaves the page's own. */
  ground: string | null;
}

const escaped = (text: string): string => text.replace(/[&<>"']/g, (sign) => `&#${sign.charCodeAt(0)};`);

/** Turns per second that it makes by itself, and what is left of a swing after a second. */
const OWN_SPEED = 0.08;
const SWING_LEFT = 0.08;

/**
 * The page up to its first picture. Pictures follow as `spinPicture`, the end as `spinEnd`; each is shown as soon as it is there. It
 * needs nothing from outside.
 */
export function spinHead({ title, width, height, rows, ground }: SpinPage): string {
  return `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>${escaped(title)}</title>
<style>
html, body { margin: 0; height: 100%; background: ${ground ?? '#f3f2f0'}; }
body { display: grid; place-items: center; }
#spin { width: min(100vw, calc(100vh * ${width} / ${height})); aspect-ratio: ${width} / ${height}; cursor: grab; touch-action: none; outline: none; }
#spin:active { cursor: grabbing; }
#spin:focus-visible { box-shadow: 0 0 0 3px #0c7a61; }
</style>
</head>
<body>
<canvas id="spin" width="${width}" height="${height}" tabindex="0" role="slider" aria-label="${escaped(title)}: drag, or use the arrow keys, to turn it" aria-valuemin="0" aria-valuemax="359" aria-valuenow="0"></canvas>
<noscript>This page turns a product; it needs scripts to be allowed.</noscript>
<script>
'use strict';
const rows = ${JSON.stringify(rows)};
const pictures = rows.map(() => []);
const canvas = document.getElementById('spin');
const context = canvas.getContext('2d');
const still = matchMedia('(prefers-reduced-motion: reduce)');
let turn = 0, row = 0, lift = 0, speed = 0, held = null, touched = false, drawn = null, last = performance.now();
/** The picture nearest to the present turn that has come. */
function nearest() {
  const count = rows[row];
  const at = ((Math.round(turn * count) % count) + count) % count;
  for (let away = 0; away <= count / 2; away++)
    for (const column of [at + away, at - away]) {
      const found = pictures[row][((column % count) + count) % count];
      if (found) return found;
    }
  return null;
}
function draw() {
  const picture = nearest();
  if (!picture || picture === drawn) return;
  drawn = picture;
  context.clearRect(0, 0, canvas.width, canvas.height);
  context.drawImage(picture, 0, 0, canvas.width, canvas.height);
  canvas.setAttribute('aria-valuenow', String(Math.round((((turn % 1) + 1) % 1) * 360) % 360));
  canvas.dataset.at = row + ',' + pictures[row].indexOf(picture);
}
function come(r, column, address) {
  const picture = new Image();
  picture.src = address;
  picture.decode().then(() => {
    pictures[r][column] = picture;
    canvas.dataset.come = String(pictures.flat().filter(Boolean).length);
    drawn = null;
    draw();
  }, () => {});
}
function step(now) {
  const seconds = Math.min(0.1, (now - last) / 1000);
  last = now;
  if (!held) {
    const own = touched || still.matches ? 0 : ${OWN_SPEED};
    turn += (speed + own) * seconds;
    speed *= Math.pow(${SWING_LEFT}, seconds);
    if (Math.abs(speed) < 0.003) speed = 0;
  }
  draw();
  requestAnimationFrame(step);
}
function raise(by) {
  row = Math.max(0, Math.min(rows.length - 1, row + by));
  drawn = null;
}
canvas.addEventListener('pointerdown', (event) => {
  canvas.setPointerCapture(event.pointerId);
  canvas.focus();
  touched = true;
  speed = 0;
  held = { x: event.clientX, y: event.clientY, at: event.timeStamp };
});
canvas.addEventListener('pointermove', (event) => {
  if (!held) return;
  const by = (event.clientX - held.x) / canvas.clientWidth;
  const seconds = Math.max(0.001, (event.timeStamp - held.at) / 1000);
  turn -= by;
  speed = still.matches ? 0 : 0.6 * speed - 0.4 * (by / seconds);
  lift += (held.y - event.clientY) / canvas.clientHeight;
  const part = 0.5 / rows.length;
  while (lift > part) { raise(1); lift -= part; }
  while (lift < -part) { raise(-1); lift += part; }
  held = { x: event.clientX, y: event.clientY, at: event.timeStamp };
  draw();
});
const release = (event) => {
  // A hand that has come to rest before it lets go swings nothing.
  if (held && event.timeStamp - held.at > 120) speed = 0;
  held = null;
};
canvas.addEventListener('pointerup', release);
canvas.addEventListener('pointercancel', release);
canvas.addEventListener('keydown', (event) => {
  const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
  const up = { ArrowUp: 1, ArrowDown: -1 }[event.key];
  if (by === undefined && up === undefined && event.key !== 'Home' && event.key !== ' ') return;
  event.preventDefault();
  if (event.key === ' ') { touched = !touched; speed = 0; return; }
  touched = true;
  speed = 0;
  if (event.key === 'Home') turn = 0;
  else if (by !== undefined) turn = (Math.round(turn * rows[row]) + by) / rows[row];
  else raise(up);
  draw();
});
requestAnimationFrame(step);
</script>
`;
}

/** One picture, as it comes. @param address data: URL */
export const spinPicture = (row: number, column: number, address: string): string =>
  `<script>come(${row},${column},"${address}")</script>\n`;

export const spinEnd = (): string => `</body>\n</html>\n`;
