/**
 * Who acts. For now a name chosen once on the device and sent with each change; sign-in with roles will put the name of the
 * session here instead, and this is the one place that decides.
 */
export const authorOf = (body: { author: string }): string => body.author.trim().replace(/\s+/g, ' ').slice(0, 60) || 'Unnamed';
