/** Longest side of pictures that are drawn here, in pixels: sharp where a label fills a picture of 4K. */
const LONGEST = 4096;
/** Of the letters of a text, in pixels; its picture is as wide as they need. */
const LETTERS = 320;
const MARGIN = 40;
const LINE = 1.2;

/** Words as a picture: in one colour on nothing, in the page's own letters. @param color as CSS tells it @param name of the file */
export async function drawText(text: string, color: string, name: string): Promise<File> {
  const canvas = document.createElement('canvas');
  const context = canvas.getContext('2d')!;
  const lines = text.split('\n');
  const measure = (letters: number) => {
    context.font = `600 ${letters}px 'Hanken Grotesk', sans-serif`;
    return Math.max(1, ...lines.map((line) => context.measureText(line).width));
  };
  await document.fonts.load(`600 ${LETTERS}px 'Hanken Grotesk'`);
  const letters = Math.min(LETTERS, (LETTERS * (LONGEST - 2 * MARGIN)) / measure(LETTERS));
  canvas.width = Math.ceil(measure(letters)) + 2 * MARGIN;
  canvas.height = Math.ceil(lines.length * letters * LINE) + 2 * MARGIN;
  // A canvas that has been sized has forgotten its font.
  measure(letters);
  context.fillStyle = color;
  context.textBaseline = 'middle';
  context.textAlign = 'center';
  lines.forEach((line, k) => context.fillText(line, canvas.width / 2, MARGIN + (k + 0.5) * letters * LINE));
  return fileOf(canvas, name);
}

/**
 * A drawing of lines as a picture. As the source of an image it runs no script and fetches nothing.
 * @throws Error with a sentence where it cannot be drawn
 */
export async function drawSvg(file: File): Promise<File> {
  const address = URL.createObjectURL(new Blob([await file.arrayBuffer()], { type: 'image/svg+xml' }));
  try {
    const image = new Image();
    image.src = address;
    await image.decode();
    // Drawings that tell no size of their own come as a square.
    const [wide, high] = [image.naturalWidth || 100, image.naturalHeight || 100];
    const scale = LONGEST / Math.max(wide, high);
    const canvas = document.createElement('canvas');
    canvas.width = Math.max(1, Math.round(wide * scale));
    canvas.height = Math.max(1, Math.round(high * scale));
    canvas.getContext('2d')!.drawImage(image, 0, 0, canvas.width, canvas.height);
    return await fileOf(canvas, file.name.replace(/\.svg$/i, '.png'));
  } catch {
    throw new Error(`"${file.name}" cannot be drawn: it is no sound SVG. Save it anew, or as a PNG.`);
  } finally {
    URL.revokeObjectURL(address);
  }
}

async function fileOf(canvas: HTMLCanvasElement, name: string): Promise<File> {
  const blob = await new Promise<Blob | null>((resolve) => canvas.toBlob(resolve, 'image/png'));
  if (!blob) throw new Error('The picture is too large to be drawn here.');
  return new File([blob], name, { type: 'image/png' });
}
