/** What leads here by no name server: another site cannot make it its own. */
const ADDRESS = /^(localhost|\d{1,3}(\.\d{1,3}){3}|\[[0-9a-f:.]+\])$/i;

/** Host of an origin, null where it is none: sandboxed pages and files send the word `null`. */
export function hostOf(origin: string): string | null {
  try {
    return new URL(origin).host || null;
  } catch {
    return null;
  }
}

/**
 * Whether a request was sent to this server by its own name. A page of another site can have its own name lead here (DNS rebinding), and
 * then looks to the browser as if it were ours; its requests still carry that name.
 * @param host the Host header
 * @param hosts further names it is reached by
 */
export function isOwnHost(host: string, hosts: readonly string[]): boolean {
  const name = hostOf(`http://${host}`)?.replace(/:\d+$/, '');
  return name !== undefined && (ADDRESS.test(name) || hosts.some((own) => own.toLowerCase() === name.toLowerCase()));
}
