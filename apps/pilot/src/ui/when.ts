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
