import { adding, covering, toChroma, toLuma } from './programs';

type Context = WebGL2RenderingContext;

/** A program of the graphics processor, and where its numbers are set. */
export interface Drawn {
  program: WebGLProgram;
  at(name: string): WebGLUniformLocation | null;
}

/** The graphics processor of this thread. */
export interface Graphics {
  gl: Context;
  adding: Drawn;
  toLuma: Drawn;
  toChroma: Drawn;
  /** Most pixels of a side. */
  most: number;
}

/** Words in the names of what draws without hardware. */
const SOFTWARE = /swiftshader|llvmpipe|softpipe|software|basic render/i;

function compiled(gl: Context, fragment: string): Drawn | undefined {
  const program = gl.createProgram();
  for (const [kind, text] of [
    [gl.VERTEX_SHADER, covering],
    [gl.FRAGMENT_SHADER, fragment],
  ] as const) {
    const shader = gl.createShader(kind);
    if (!shader) return undefined;
    gl.shaderSource(shader, text);
    gl.compileShader(shader);
    gl.attachShader(program, shader);
  }
  gl.linkProgram(program);
  if (!gl.getProgramParameter(program, gl.LINK_STATUS)) return undefined;
  const known = new Map<string, WebGLUniformLocation | null>();
  const at = (name: string): WebGLUniformLocation | null => {
    if (!known.has(name)) known.set(name, gl.getUniformLocation(program, name));
    return known.get(name)!;
  };
  return { program, at };
}

function isHardware(gl: Context): boolean {
  const info = gl.getExtension('WEBGL_debug_renderer_info');
  return !SOFTWARE.test(String(gl.getParameter(info ? info.UNMASKED_RENDERER_WEBGL : gl.RENDERER)));
}

/**
 * Opens the graphics processor.
 *
 * @param software also where the device has none, and the browser does what it would: slower than the kernels, for tests
 * @returns undefined where there is none, or it cannot add up light in floats
 */
export function openGraphics(software = false): Graphics | undefined {
  if (typeof OffscreenCanvas === 'undefined') return undefined;
  const options = { failIfMajorPerformanceCaveat: !software, antialias: false, depth: false };
  const gl = new OffscreenCanvas(1, 1).getContext('webgl2', options);
  if (!gl || !gl.getExtension('EXT_color_buffer_float') || !(software || isHardware(gl))) return undefined;
  const [add, luma, chroma] = [compiled(gl, adding), compiled(gl, toLuma), compiled(gl, toChroma)];
  const most = Number(gl.getParameter(gl.MAX_TEXTURE_SIZE));
  return add && luma && chroma && { gl, adding: add, toLuma: luma, toChroma: chroma, most };
}

let opened: { graphics: Graphics | undefined } | undefined;

/**
 * The graphics processor of this thread where the device has one; not once it was lost.
 *
 * @param isRight whether it adds up as it should: asked once, for what devices do is not to be known beforehand
 */
export function graphicsAtHand(isRight: (graphics: Graphics) => boolean): Graphics | undefined {
  if (!opened) {
    const graphics = openGraphics();
    opened = { graphics: graphics && isRight(graphics) ? graphics : undefined };
  }
  if (opened.graphics?.gl.isContextLost()) opened = { graphics: undefined };
  return opened.graphics;
}
