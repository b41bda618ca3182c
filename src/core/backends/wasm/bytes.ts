/**
 * A growing buffer of bytes with the encodings of the WebAssembly binary format (core specification
 * 2.0, chapter 5).
 */
export class ByteWriter {
  private buffer = new Uint8Array(4096);
  private view = new DataView(this.buffer.buffer);
  length = 0;

  private reserve(extra: number): void {
    if (this.length + extra <= this.buffer.length) return;
    const grown = new Uint8Array(Math.max(this.buffer.length * 2, this.length + extra));
    grown.set(this.buffer.subarray(0, this.length));
    this.buffer = grown;
    this.view = new DataView(grown.buffer);
  }

  byte(...values: number[]): this {
    this.reserve(values.length);
    for (const value of values) this.buffer[this.length++] = value;
    return this;
  }

  /** Unsigned LEB128. */
  u32(value: number): this {
    let rest = value >>> 0;
    do {
      const low = rest & 0x7f;
      rest >>>= 7;
      this.byte(rest ? low | 0x80 : low);
    } while (rest);
    return this;
  }

  /** Signed LEB128. */
  s32(value: number): this {
    let rest = value | 0;
    for (;;) {
      const low = rest & 0x7f;
      rest >>= 7;
      const done = (rest === 0 && !(low & 0x40)) || (rest === -1 && (low & 0x40) !== 0);
      this.byte(done ? low : low | 0x80);
      if (done) return this;
    }
  }

  f32(value: number): this {
    this.reserve(4);
    this.view.setFloat32(this.length, value, true);
    this.length += 4;
    return this;
  }

  i32Raw(value: number): this {
    this.reserve(4);
    this.view.setInt32(this.length, value, true);
    this.length += 4;
    return this;
  }

  name(text: string): this {
    const encoded = Array.from(text, (letter) => letter.charCodeAt(0));
    return this.u32(encoded.length).byte(...encoded);
  }

  bytes(other: Uint8Array): this {
    this.reserve(other.length);
    this.buffer.set(other, this.length);
    this.length += other.length;
    return this;
  }

  /** A length, then the bytes. */
  sized(other: ByteWriter): this {
    return this.u32(other.length).bytes(other.take());
  }

  take(): Uint8Array<ArrayBuffer> {
    return this.buffer.slice(0, this.length);
  }
}
