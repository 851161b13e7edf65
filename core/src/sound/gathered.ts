/** Numbers that come one by one, by the million in an hour: held in a typed array that grows, not as objects. */
export class Gathered<A extends Uint8Array<ArrayBuffer> | Float32Array<ArrayBuffer>> {
  private length = 0;

  constructor(
    private values: A,
    private readonly longer: (length: number) => A,
  ) {}

  push(value: number): void {
    if (this.length === this.values.length) {
      const grown = this.longer(2 * this.length);
      grown.set(this.values);
      this.values = grown;
    }
    this.values[this.length++] = value;
  }

  /** What came since this was last asked. */
  take(): A {
    const values = this.values.slice(0, this.length) as A;
    this.length = 0;
    return values;
  }
}

const FIRST = 4096;
export const gatheredBytes = () => new Gathered(new Uint8Array(FIRST), (length) => new Uint8Array(length));
export const gatheredFloats = () => new Gathered(new Float32Array(FIRST), (length) => new Float32Array(length));
