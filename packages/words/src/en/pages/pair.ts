export const say = {
  phone: 'Phone',
  computer: 'Computer',
  ofText: ({ kind, author }: { kind: string; author: string }) => `${kind} of ${author}`,
  thisDeviceIsPaired: 'This device is paired',
  itMayReadWriteAnd: 'It may read, write and turn machines until it is removed.',
  goToThePlant: 'Go to the plant',
  pairThisDevice: 'Pair this device',
  itWasRemoved: 'It was removed.',
  theServerDoesNotKnow: 'The server does not know it yet.',
  somebodyRemovedThisDeviceThe:
    'Somebody removed this device: the server no longer lets it in. A motor it held was ramped down. What was typed and not sent is still on this device.',
  onlyPairedDevicesGetIn:
    'Only paired devices get in, because this server writes to drives and turns motors. The code is on the server’s own screen. If it is no longer there, run “npm run pair” at the server.',
  ofText2: ({ code, codeLength }: { code: number; codeLength: number }) => `${code} of ${codeLength}`,
  codeFromTheServer: 'Code from the server',
  abcd: 'ABCD 2345',
  nameOfThisDevice: 'Name of this device',
  phoneOfTheElectrician: 'Phone of the electrician',
  theNameStandsInThe: 'The name stands in the list of paired devices and in the log, so that the right one can be removed when it is lost.',
  pairing: 'Pairing…',
};
