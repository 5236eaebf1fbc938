/** Code of a system's or the database's error, whatever it is wrapped in. */
export function errorCode(error: unknown): string | null {
  for (let at = error; typeof at === 'object' && at !== null;) {
    const { code, driverError, cause } = at as { code?: unknown; driverError?: unknown; cause?: unknown };
    if (typeof code === 'string') return code;
    at = driverError ?? cause;
  }
  return null;
}
