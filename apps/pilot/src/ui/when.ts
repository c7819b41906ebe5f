const full = new Intl.DateTimeFormat('en-GB', {
  day: 'numeric',
  month: 'short',
  year: 'numeric',
  hour: '2-digit',
  minute: '2-digit',
  second: '2-digit',
});

/** A moment as it is written in a log: day, month in letters, 24-hour clock. */
export const when = (iso: string): string => full.format(new Date(iso));

const hours = new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit', second: '2-digit' });

/** A time of this day. @param at ms since 1970 */
export const clock = (at: number): string => hours.format(at);
