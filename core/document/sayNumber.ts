/**
 * A number as sentences show it: at most three places behind the point, thousands in groups. The page's own way of saying numbers
 * takes a tenth of a second before the first one.
 */
export function sayNumber(value: number): string {
  const [whole, part] = String(Math.round(value * 1000) / 1000).split('.') as [string, string?];
  const grouped = whole.replace(/\d(?=(\d{3})+$)/g, '$&,');
  return part === undefined ? grouped : `${grouped}.${part}`;
}
