/** What a drive does by itself beside what it is told: the first that applies. */
export const doings = ['nothing', 'emergency', 'cleaning', 'filling', 'boosting', 'resting', 'frost', 'running on', 'standby'] as const;
export type Doing = (typeof doings)[number];
