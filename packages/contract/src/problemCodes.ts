/** What a page decides on, of the problems a server tells (RFC 9457 `type`). No schema stands here, so that the page can take it. */
export const problemCodes = {
  notPaired: 'urn:yare:problem:not-paired',
  noBench: 'urn:yare:problem:no-bench',
} as const;
