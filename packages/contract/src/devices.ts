import { Type, type Static } from '@sinclair/typebox';
import { orNull } from './literals';
import { Text } from './text';

/** Whom the server takes the caller for. */
export const Here = Type.Object(
  {
    /** may use this server: paired, or at its own computer */
    allowed: Type.Boolean(),
    /** at the server's own computer, where nothing needs pairing */
    local: Type.Boolean(),
    /** the name this device was paired under */
    device: orNull(Type.String()),
  },
  { additionalProperties: false },
);
export type Here = Static<typeof Here>;

/** The code from the server's terminal, and what the device shall be called. */
export const PairRequest = Type.Object({ code: Text(20, { minLength: 1 }), name: Text(40, { minLength: 1 }) }, { additionalProperties: false });
export type PairRequest = Static<typeof PairRequest>;

/** A device that may use this server. */
export const DeviceView = Type.Object(
  {
    id: Type.Integer(),
    name: Type.String(),
    pairedAt: Type.String(),
    lastUsed: Type.String(),
    address: Type.String(),
    /** the one that asks */
    self: Type.Boolean(),
    /** holds a live channel at this moment */
    online: Type.Boolean(),
  },
  { additionalProperties: false },
);
export type DeviceView = Static<typeof DeviceView>;
