/** What one of each unit that may be typed is in a field's own unit. */
const UNITS: Record<string, Record<string, number>> = {
  'mm': lengthsIn(1),
  'cm': lengthsIn(10),
  'm': lengthsIn(1000),
  'inch': lengthsIn(25.4),
  '°': { '°': 1, deg: 1, rad: 180 / Math.PI, turns: 360 },
  'turns': { turns: 1, turn: 1, '°': 1 / 360, deg: 1 / 360, rad: 1 / (2 * Math.PI) },
  'lm': { lm: 1, klm: 1000 },
  'K': { k: 1 },
  '×': { '×': 1, x: 1, '%': 0.01 },
  'stops': { stops: 1, ev: 1 },
  'f/': {},
  '': { '%': 0.01 },
}; // prettier-ignore

/** Units of length in one of so many millimetres. */
function lengthsIn(millimetres: number): Record<string, number> {
  const lengths = { mm: 1, cm: 10, m: 1000, in: 25.4, inch: 25.4, ft: 304.8 };
  return Object.fromEntries(Object.entries(lengths).map(([name, each]) => [name, each / millimetres]));
}

/**
 * The number a user typed into a field: plain, with arithmetic (`1920/2`, `3*(4+1)`), with a unit that fits the field
 * (`12 cm` in millimetres, `2 s` in frames). Null where it is none.
 * @param unit the field's own unit, as shown
 * @param frameRate frames per second
 */
export function readNumber(text: string, unit = '', frameRate = 24): number | null {
  const clean = text.trim().replace(',', '.').replace(/^f\//i, '');
  const [, amount, typed] = /^(.*?)\s*([a-z°×%]*)$/i.exec(clean)!;
  const factors = unit === 'frames' ? { frames: 1, f: 1, s: frameRate } : (UNITS[unit] ?? {});
  const name = typed!.toLowerCase();
  const factor = name === '' ? 1 : Object.hasOwn(factors, name) ? (factors as Record<string, number>)[name] : undefined;
  const value = factor === undefined ? null : arithmetic(amount!);
  return value === null ? null : value * factor!;
}

function arithmetic(text: string): number | null {
  const tokens = text.match(/\d+\.?\d*(?:e[-+]?\d+)?|\.\d+|[-+*/()]/gi);
  if (!tokens || tokens.join('') !== text.replace(/\s+/g, '')) return null;
  let at = 0;
  const sum = (): number => {
    let value = product();
    while (tokens[at] === '+' || tokens[at] === '-')
      value = tokens[at++] === '+' ? value + product() : value - product();
    return value;
  };
  const product = (): number => {
    let value = factor();
    while (tokens[at] === '*' || tokens[at] === '/') value = tokens[at++] === '*' ? value * factor() : value / factor();
    return value;
  };
  const factor = (): number => {
    const token = tokens[at++];
    if (token === '-') return -factor();
    if (token === '+') return factor();
    if (token === '(') {
      const value = sum();
      return tokens[at++] === ')' ? value : NaN;
    }
    return token === undefined ? NaN : Number(token);
  };
  const value = sum();
  return at === tokens.length && Number.isFinite(value) ? value : null;
}
