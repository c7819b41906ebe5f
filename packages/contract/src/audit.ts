import { Type, type Static } from '@sinclair/typebox';
import { orNull } from './literals';

export const AuditEvent = Type.Object(
  {
    id: Type.Integer(),
    at: Type.String(),
    author: Type.String(),
    action: Type.String(),
    tag: orNull(Type.String()),
    detail: Type.Unknown(),
    /** the paired device it came from; null for the server's own computer and its own acts */
    device: orNull(Type.String()),
    /** where from on the network */
    address: orNull(Type.String()),
  },
  { additionalProperties: false },
);
export const AuditPage = Type.Object({ events: Type.Array(AuditEvent), next: orNull(Type.Integer()) }, { additionalProperties: false });
export type AuditPage = Static<typeof AuditPage>;
