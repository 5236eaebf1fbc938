/**
 * The number a user typed: plain, with arithmetic (`1920/2`, `3*(4+1)`), or followed by a unit, which is dropped.
 * Null where it is none.
 */
export function readNumber(text: string): number | null {
  const clean = text
    .trim()
    .replace(',', '.')
    .replace(/(mm|deg|°|lm|k|f\/|s|frames|%|×|stops|ev)\s*$/i, '')
    .replace(/^f\//i, '');
  const tokens = clean.match(/\d+\.?\d*(?:e[-+]?\d+)?|\.\d+|[-+*/()]/gi);
  if (!tokens || tokens.join('') !== clean.replace(/\s+/g, '')) return null;
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
