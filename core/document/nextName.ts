/** The name, with a number behind it where it is taken. */
export function nextName(taken: readonly string[], name: string): string {
  if (!taken.includes(name)) return name;
  const stem = name.replace(/ \d+$/, '').slice(0, 190);
  for (let k = 2; ; k++) if (!taken.includes(`${stem} ${k}`)) return `${stem} ${k}`;
}
