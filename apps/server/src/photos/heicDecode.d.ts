declare module 'heic-decode' {
  interface Decoded {
    width: number;
    height: number;
    data: Uint8ClampedArray;
  }
  const decode: {
    all(of: { buffer: Uint8Array }): Promise<Array<{ width: number; height: number; decode(): Promise<Decoded> }>>;
  };
  export default decode;
}
