/** Where a setting's value comes from. No schema stands here, so that the application can take it. */
export const sources = ['factory', 'plate', 'worked out', 'chosen', 'measured', 'read from drive', 'imported'] as const;
