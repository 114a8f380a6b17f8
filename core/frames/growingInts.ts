/**
 * Whole numbers that arrive one at a time, kept in a typed array that doubles
 * when it is full: 4 bytes a value, and no boxed number a frame.
 */
export class GrowingInts {
  private values = new Int32Array(4096);
  length = 0;

  push(value: number): void {
    if (this.length === this.values.length) {
      const larger = new Int32Array(this.values.length * 2);
      larger.set(this.values);
      this.values = larger;
    }
    this.values[this.length++] = value;
  }

  /** The values so far, without a copy: a later push may move the store. */
  view(): Int32Array {
    return this.values.subarray(0, this.length);
  }
}
