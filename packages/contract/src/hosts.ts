/** Names a server is called by. No schema stands here: the bench takes it too. */

/** The host name of a `Host` header or of an origin, in lower case and without its port; null when it is none. */
export function hostnameOf(host: string | undefined): string | null {
  if (host === undefined || !/^[\w.-]+(:\d{1,5})?$|^\[[0-9a-f:.]+\](:\d{1,5})?$/i.test(host)) return null;
  return host
    .replace(/:\d{1,5}$/, '')
    .replace(/^\[|\]$/g, '')
    .toLowerCase();
}

/** Loopback by name or address, IPv4, IPv6, or IPv4 inside IPv6. */
export const isLoopback = (name: string): boolean =>
  name === 'localhost' || name === '::1' || /^(::ffff:)?127\.\d{1,3}\.\d{1,3}\.\d{1,3}$/.test(name);
