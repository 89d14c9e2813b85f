import { bright, dark, fromPlanes, lightsOf, planarBytes, toPlanes, YUV_BITS, type YuvSpace } from '@hastig/core';
import type { LightSum } from '../light-sum';
import type { Drawn, Graphics } from './graphics';

type Plane = readonly [texture: WebGLTexture, width: number, height: number];
type Planes = Record<'Y' | 'Cb' | 'Cr', Plane>;

/** Places of the textures while something is drawn. */
const units = [
  'firstY',
  'firstCb',
  'firstCr',
  'sums',
  'nextY',
  'nextCb',
  'nextCr',
  'lights',
  'bright',
  'dark',
] as const;
/** Numbers in a row of a table. */
const ROW = 256;

/** Adds pictures in planes up in light on the graphics processor: what `PlanarMean` of the core does, within one step of a value. */
export class GraphicsSum implements LightSum {
  private readonly next: Uint8Array;
  private readonly first: Planes;
  private readonly coming: Planes;
  private readonly tables: Record<'lights' | 'bright' | 'dark', WebGLTexture>;
  private readonly target: WebGLFramebuffer;
  private sums: [now: WebGLTexture, then: WebGLTexture];
  private added = 0;
  private scaled = false;

  constructor(
    private readonly graphics: Graphics,
    private readonly width: number,
    private readonly height: number,
    private readonly space: YuvSpace,
  ) {
    const { gl } = graphics;
    this.next = new Uint8Array(planarBytes(width, height));
    gl.pixelStorei(gl.UNPACK_ALIGNMENT, 1);
    gl.pixelStorei(gl.PACK_ALIGNMENT, 1);
    this.first = this.planes();
    this.coming = this.planes();
    const sum = (): WebGLTexture => this.texture(gl.RGBA32F, width, height);
    this.sums = [sum(), sum()];
    this.target = gl.createFramebuffer();
    this.tables = {
      lights: this.table(gl.R32F, gl.RED, gl.FLOAT, lightsOf),
      bright: this.table(gl.R8UI, gl.RED_INTEGER, gl.UNSIGNED_BYTE, bright),
      dark: this.table(gl.R8UI, gl.RED_INTEGER, gl.UNSIGNED_BYTE, dark),
    };
    this.drawInto(this.sums[0], width, height);
    gl.clearColor(0, 0, 0, 0);
    gl.clear(gl.COLOR_BUFFER_BIT);
  }

  room(): Uint8Array {
    return this.next;
  }

  add(weight: number, gain = 1): void {
    const { gl, adding } = this.graphics;
    if (gain !== 1) this.sumAll();
    if (this.added++ === 0) this.write(this.first);
    this.write(this.coming);
    const [now, then] = this.sums;
    this.drawInto(then, this.width, this.height);
    this.use(adding, now);
    const { black, luma, redCr, greenCr, greenCb, blueCb } = fromPlanes(this.space);
    for (const [name, value] of Object.entries({ black, luma, redCr, greenCr, greenCb, blueCb, bits: YUV_BITS }))
      gl.uniform1i(adding.at(name), value);
    gl.uniform1f(adding.at('weight'), weight * gain);
    gl.drawArrays(gl.TRIANGLES, 0, 3);
    this.sums = [then, now];
  }

  sumAll(): void {
    this.scaled = true;
  }

  mean(): Uint8Array | undefined {
    const { width, height, graphics, next } = this;
    const { yr, yg, yb, ur, ug, ub, vr, vg, vb, yBase, cBase } = toPlanes(this.space);
    const [across, down] = [(width + 1) >> 1, (height + 1) >> 1];
    const [luma, chroma] = [width * height, across * down];
    this.read(graphics.toLuma, [yr, yg, yb], yBase, false, width, height, next.subarray(0, luma));
    const planes: [number[], boolean][] = [
      [[ur, ug, ub], false],
      [[vr, vg, vb], true],
    ];
    planes.forEach(([shares, isCr], index) => {
      const from = luma + index * chroma;
      this.read(graphics.toChroma, shares, cBase, isCr, across, down, next.subarray(from, from + chroma));
    });
    return graphics.gl.isContextLost() ? undefined : next;
  }

  close(): void {
    const { gl } = this.graphics;
    for (const [texture] of [...Object.values(this.first), ...Object.values(this.coming)]) gl.deleteTexture(texture);
    for (const texture of [...this.sums, ...Object.values(this.tables)]) gl.deleteTexture(texture);
    gl.deleteFramebuffer(this.target);
  }

  private texture(format: number, width: number, height: number): WebGLTexture {
    const { gl } = this.graphics;
    const texture = gl.createTexture();
    gl.bindTexture(gl.TEXTURE_2D, texture);
    gl.texStorage2D(gl.TEXTURE_2D, 1, format, width, height);
    // Numbers are fetched one by one, never anything between two.
    gl.texParameteri(gl.TEXTURE_2D, gl.TEXTURE_MIN_FILTER, gl.NEAREST);
    gl.texParameteri(gl.TEXTURE_2D, gl.TEXTURE_MAG_FILTER, gl.NEAREST);
    return texture;
  }

  private table(format: number, as: number, type: number, numbers: Float32Array | Uint8Array): WebGLTexture {
    const { gl } = this.graphics;
    const rows = Math.ceil(numbers.length / ROW);
    const texture = this.texture(format, ROW, rows);
    const whole = numbers instanceof Float32Array ? new Float32Array(rows * ROW) : new Uint8Array(rows * ROW);
    whole.set(numbers);
    gl.texSubImage2D(gl.TEXTURE_2D, 0, 0, 0, ROW, rows, as, type, whole);
    return texture;
  }

  private planes(): Planes {
    const { gl } = this.graphics;
    const plane = (width: number, height: number): Plane => [this.texture(gl.R8UI, width, height), width, height];
    const [across, down] = [(this.width + 1) >> 1, (this.height + 1) >> 1];
    return { Y: plane(this.width, this.height), Cb: plane(across, down), Cr: plane(across, down) };
  }

  private write(planes: Planes): void {
    const { gl } = this.graphics;
    let from = 0;
    for (const [texture, width, height] of [planes.Y, planes.Cb, planes.Cr]) {
      gl.bindTexture(gl.TEXTURE_2D, texture);
      const data = this.next.subarray(from, (from += width * height));
      gl.texSubImage2D(gl.TEXTURE_2D, 0, 0, 0, width, height, gl.RED_INTEGER, gl.UNSIGNED_BYTE, data);
    }
  }

  private drawInto(texture: WebGLTexture, width: number, height: number): void {
    const { gl } = this.graphics;
    gl.bindFramebuffer(gl.FRAMEBUFFER, this.target);
    gl.framebufferTexture2D(gl.FRAMEBUFFER, gl.COLOR_ATTACHMENT0, gl.TEXTURE_2D, texture, 0);
    gl.viewport(0, 0, width, height);
  }

  private use({ program, at }: Drawn, sums: WebGLTexture): void {
    const { gl } = this.graphics;
    const { first, coming, tables } = this;
    const textures: Record<(typeof units)[number], WebGLTexture> = {
      ...{ firstY: first.Y[0], firstCb: first.Cb[0], firstCr: first.Cr[0], sums },
      ...{ nextY: coming.Y[0], nextCb: coming.Cb[0], nextCr: coming.Cr[0], ...tables },
    };
    gl.useProgram(program);
    units.forEach((name, unit) => {
      gl.activeTexture(gl.TEXTURE0 + unit);
      gl.bindTexture(gl.TEXTURE_2D, textures[name]);
      gl.uniform1i(at(name), unit);
    });
    gl.activeTexture(gl.TEXTURE0 + units.length);
  }

  /** Draws a plane, four values a pixel, and reads it. */
  private read(
    drawn: Drawn,
    shares: readonly number[],
    base: number,
    isCr: boolean,
    width: number,
    height: number,
    into: Uint8Array,
  ): void {
    const { gl } = this.graphics;
    const fours = Math.ceil(width / 4);
    const texture = this.texture(gl.RGBA8, fours, height);
    this.drawInto(texture, fours, height);
    this.use(drawn, this.sums[0]);
    gl.uniform3i(drawn.at('shares'), shares[0]!, shares[1]!, shares[2]!);
    gl.uniform1i(drawn.at('base'), base);
    gl.uniform1i(drawn.at('bits'), YUV_BITS);
    gl.uniform1i(drawn.at('isCr'), Number(isCr));
    gl.uniform1i(drawn.at('scaled'), Number(this.scaled));
    gl.uniform2i(drawn.at('size'), this.width, this.height);
    gl.drawArrays(gl.TRIANGLES, 0, 3);
    const rows = new Uint8Array(4 * fours * height);
    gl.readPixels(0, 0, fours, height, gl.RGBA, gl.UNSIGNED_BYTE, rows);
    for (let row = 0; row < height; row++)
      into.set(rows.subarray(row * 4 * fours, row * 4 * fours + width), row * width);
    gl.deleteTexture(texture);
  }
}
