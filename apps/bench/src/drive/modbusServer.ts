import { ServerTCP } from 'modbus-serial';
import { ModbusException, Refusal } from './linkSide';
import type { SimulatedDrive } from './simulatedDrive';

export interface ModbusBench {
  close(): Promise<void>;
}

/** Serves each drive as one unit of a Modbus TCP server. @throws Error when the port is in use */
export function serveModbus(drives: ReadonlyMap<number, SimulatedDrive>, host: string, port: number): Promise<ModbusBench> {
  const drive = (unit: number): SimulatedDrive => {
    const d = drives.get(unit);
    if (!d) throw new Refusal(ModbusException.noAnswer); // gateway target device failed to respond
    return d;
  };
  const notHere = () => {
    throw new Refusal(ModbusException.illegalAddress);
  };
  const vector = {
    getHoldingRegister: (address: number, unit: number) => drive(unit).readRegister(address),
    getInputRegister: notHere,
    getCoil: notHere,
    getDiscreteInput: notHere,
    setCoil: notHere,
    setRegister: (address: number, value: number, unit: number) => drive(unit).writeRegister(address, value),
    // the library takes a refusal of this from a promise alone
    readDeviceIdentification: async (unit: number) => drive(unit).identification(),
  };
  return new Promise((resolve, reject) => {
    const server = new ServerTCP(vector as unknown as ConstructorParameters<typeof ServerTCP>[0], { host, port });
    server.on('serverError', (error) => reject(error ?? new Error('Modbus server failed')));
    server.on('socketError', () => undefined);
    server.on('initialized', () => resolve({ close: () => new Promise((done) => server.close(() => done())) }));
  });
}
