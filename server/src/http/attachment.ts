/** For a header: some browsers would read a name of half a character as none. */
export const attachment = (name: string): string =>
  `attachment; filename*=UTF-8''${encodeURIComponent(name.toWellFormed())}`;
