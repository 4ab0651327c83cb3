/**
 * Host of the glsl back end: a picture is one texture of 32-bit floats, a kernel is one shader that
 * fills it.
 */
import type { Leaf } from '../graph';
import { ATLAS_WIDTH, building, cachedTable, emitGlsl, lower, type TableSpec } from '../kernel';
import { type BackEnd, Computer, OutOfMemory, type Planes } from './computer';
import { expressions, type Group } from './fusion';

/** A picture on the GPU. */
export interface Texture {
  readonly texture: WebGLTexture;
  readonly framebuffer: WebGLFramebuffer;
  readonly width: number;
  readonly height: number;
  readonly planes: number;
  /** Numbers per pixel: 1, 2 or 4. */
  readonly channels: 1 | 2 | 4;
  readonly bytes: number;
}

interface Program {
  readonly program: WebGLProgram;
  readonly params: WebGLUniformLocation | null;
  readonly ints: WebGLUniformLocation | null;
}
interface Ready {
  readonly program: Program;
  /** Index of the first entry of each of the kernel's tables in the atlas. */
  readonly tables: readonly number[];
}

/** Vertex shader: one triangle that covers the picture. */
const COVER = `#version 300 es
void main() { gl_Position = vec4(float((gl_VertexID & 1) << 2) - 1.0, float((gl_VertexID & 2) << 1) - 1.0, 0.0, 1.0); }`;

/** Fragment shader: code values to the canvas's bytes. The canvas counts rows from the bottom. */
const PRESENT = `#version 300 es
precision highp float; precision highp sampler2D;
uniform sampler2D i0; out vec4 o;
void main() {
  ivec2 at = ivec2(gl_FragCoord.xy);
  vec4 c = texelFetch(i0, ivec2(at.x, textureSize(i0, 0).y - 1 - at.y), 0);
  o = vec4(floor(clamp(c.rgb * 255.0 + 0.5, 0.0, 255.0)) / 255.0, 1.0);
}`;

/** Rows of the table atlas: 2 million entries, enough for a few of the largest cubes. */
const ATLAS_ROWS = 1024;

const FORMATS = { 1: ['R32F', 'RED'], 2: ['RG32F', 'RG'], 4: ['RGBA32F', 'RGBA'] } as const;

class Glsl implements BackEnd<Texture, Ready> {
  private readonly programs = new Map<string, Program>();
  private readonly vertices: WebGLShader;
  private readonly atlas: WebGLTexture;
  /** First row of each table in the atlas. */
  private readonly tables = new Map<string, number>();
  private nextRow = 0;
  private bytes = 0;
  private readonly unused: Texture[] = [];

  constructor(
    private readonly gl: WebGL2RenderingContext,
    private readonly limit: number,
  ) {
    if (!gl.getExtension('EXT_color_buffer_float'))
      throw new Error('this WebGL2 cannot draw into textures of floats');
    this.vertices = this.shader(gl.VERTEX_SHADER, COVER);
    this.atlas = this.texture('RGBA32F', ATLAS_WIDTH, ATLAS_ROWS);
    gl.pixelStorei(gl.UNPACK_ALIGNMENT, 1);
  }

  room(width: number, height: number, planes: number): Texture {
    const channels = planes > 2 ? 4 : (planes as 1 | 2);
    const i = this.unused.findIndex(
      (t) => t.width === width && t.height === height && t.channels === channels,
    );
    if (i >= 0) return { ...this.unused.splice(i, 1)[0]!, planes };
    const bytes = width * height * channels * 4;
    while (this.bytes + bytes > this.limit && this.unused.length > 0)
      this.free(this.unused.shift()!);
    if (this.bytes + bytes > this.limit) throw new OutOfMemory(bytes);
    const { gl } = this;
    const texture = this.texture(FORMATS[channels][0], width, height);
    const framebuffer = gl.createFramebuffer();
    gl.bindFramebuffer(gl.FRAMEBUFFER, framebuffer);
    gl.framebufferTexture2D(gl.FRAMEBUFFER, gl.COLOR_ATTACHMENT0, gl.TEXTURE_2D, texture, 0);
    this.bytes += bytes;
    return { texture, framebuffer, width, height, planes, channels, bytes };
  }

  release(image: Texture): void {
    this.unused.push(image);
  }
  bytesOf(image: Texture): number {
    return image.bytes;
  }
  private free(image: Texture): void {
    this.gl.deleteFramebuffer(image.framebuffer);
    this.gl.deleteTexture(image.texture);
    this.bytes -= image.bytes;
  }

  load(leaf: Leaf, into: Texture): void {
    const { gl } = this;
    const { width, height, channels } = into;
    const numbers = new Float32Array(width * height * channels);
    const plane = channels === 1 ? numbers : new Float32Array(width * height);
    for (let p = 0; p < leaf.planes; p++) {
      leaf.load(p, (y) => plane.subarray(y * width, (y + 1) * width));
      if (channels > 1)
        for (let i = 0; i < plane.length; i++) numbers[i * channels + p] = plane[i]!;
    }
    gl.bindTexture(gl.TEXTURE_2D, into.texture);
    gl.texSubImage2D(
      gl.TEXTURE_2D,
      0,
      0,
      0,
      width,
      height,
      gl[FORMATS[channels][1]],
      gl.FLOAT,
      numbers,
    );
  }

  ready(group: Group): Ready {
    if (group.reads.length + 1 > (this.gl.getParameter(this.gl.MAX_TEXTURE_IMAGE_UNITS) as number))
      throw new Error(`a kernel reads ${group.reads.length} pictures: more than this WebGL2 can`);
    const known = group.tables.map((t) => this.tables.get(t.key));
    // When the atlas is full it starts again: the tables of this kernel come first.
    const rows = (spec: TableSpec): number => Math.ceil(entriesOf(spec).length / 4 / ATLAS_WIDTH);
    const missing = group.tables.filter((_, i) => known[i] === undefined);
    if (this.nextRow + missing.reduce((n, t) => n + rows(t), 0) > ATLAS_ROWS) {
      this.tables.clear();
      this.nextRow = 0;
    }
    return {
      program: this.program(group),
      tables: group.tables.map((t) => this.table(t) * ATLAS_WIDTH),
    };
  }

  fill(
    group: Group,
    { program, tables }: Ready,
    reads: readonly Texture[],
    out: Texture,
    stop: () => boolean,
  ): boolean {
    if (stop()) return false;
    const { gl } = this;
    gl.useProgram(program.program);
    reads.forEach((image, i) => this.bind(i, image.texture));
    this.bind(reads.length, this.atlas);
    if (program.params) gl.uniform4fv(program.params, padded(group.params, Float32Array));
    if (program.ints) gl.uniform4iv(program.ints, padded([...group.ints, ...tables], Int32Array));
    this.draw(out.framebuffer, out.width, out.height);
    return true;
  }

  planes({ framebuffer, width, height, planes }: Texture): Planes {
    const { gl } = this;
    const numbers = new Float32Array(width * height * 4);
    gl.bindFramebuffer(gl.FRAMEBUFFER, framebuffer);
    gl.readPixels(0, 0, width, height, gl.RGBA, gl.FLOAT, numbers);
    const plane = (p: number) =>
      Float32Array.from({ length: width * height }, (_, i) => numbers[i * 4 + p]!);
    return {
      width,
      height,
      stride: width,
      planes: Array.from({ length: planes }, (_, p) => plane(p)),
    };
  }

  /**
   * Draws three planes of code values onto the context's canvas, which must have the picture's
   * size.
   */
  present(image: Texture): void {
    const { gl } = this;
    const { program } = this.linked('present', () => PRESENT, 1);
    gl.useProgram(program);
    this.bind(0, image.texture);
    this.draw(null, image.width, image.height);
    gl.finish();
  }

  close(): void {
    this.gl.getExtension('WEBGL_lose_context')?.loseContext();
  }

  private draw(framebuffer: WebGLFramebuffer | null, width: number, height: number): void {
    const { gl } = this;
    gl.bindFramebuffer(gl.FRAMEBUFFER, framebuffer);
    gl.viewport(0, 0, width, height);
    gl.drawArrays(gl.TRIANGLES, 0, 3);
    if (gl.isContextLost()) throw new Error('the graphics processor was taken away');
  }
  private bind(unit: number, texture: WebGLTexture): void {
    this.gl.activeTexture(this.gl.TEXTURE0 + unit);
    this.gl.bindTexture(this.gl.TEXTURE_2D, texture);
  }

  private texture(
    format: 'R32F' | 'RG32F' | 'RGBA32F',
    width: number,
    height: number,
  ): WebGLTexture {
    const { gl } = this;
    const texture = gl.createTexture();
    gl.bindTexture(gl.TEXTURE_2D, texture);
    gl.texStorage2D(gl.TEXTURE_2D, 1, gl[format], width, height);
    for (const filter of [gl.TEXTURE_MIN_FILTER, gl.TEXTURE_MAG_FILTER])
      gl.texParameteri(gl.TEXTURE_2D, filter, gl.NEAREST);
    return texture;
  }

  /** First row of a table in the atlas; uploads it if it is not there. */
  private table(spec: TableSpec): number {
    const known = this.tables.get(spec.key);
    if (known !== undefined) return known;
    const { gl } = this;
    const entries = entriesOf(spec);
    const height = Math.ceil(entries.length / 4 / ATLAS_WIDTH);
    const numbers = new Float32Array(height * ATLAS_WIDTH * 4);
    numbers.set(entries);
    const row = this.nextRow;
    gl.bindTexture(gl.TEXTURE_2D, this.atlas);
    gl.texSubImage2D(gl.TEXTURE_2D, 0, 0, row, ATLAS_WIDTH, height, gl.RGBA, gl.FLOAT, numbers);
    this.nextRow += height;
    this.tables.set(spec.key, row);
    return row;
  }

  private program(group: Group): Program {
    const { reads, params, ints, tables } = group;
    const counts = {
      inputs: reads.length,
      params: params.length,
      ints: ints.length,
      tables: tables.length,
    };
    return this.linked(
      group.shape,
      () => building(() => emitGlsl(lower(expressions(group)), counts)),
      reads.length,
    );
  }
  private linked(shape: string, source: () => string, inputs: number): Program {
    const known = this.programs.get(shape);
    if (known) return known;
    const { gl } = this;
    const program = gl.createProgram();
    const fragments = this.shader(gl.FRAGMENT_SHADER, source());
    gl.attachShader(program, this.vertices);
    gl.attachShader(program, fragments);
    gl.linkProgram(program);
    if (!gl.getProgramParameter(program, gl.LINK_STATUS))
      throw new Error(`a shader does not link: ${gl.getProgramInfoLog(program) ?? ''}`);
    gl.deleteShader(fragments);
    gl.useProgram(program);
    for (let i = 0; i < inputs; i++) gl.uniform1i(gl.getUniformLocation(program, `i${i}`), i);
    gl.uniform1i(gl.getUniformLocation(program, 'atlas'), inputs);
    const made = {
      program,
      params: gl.getUniformLocation(program, 'params'),
      ints: gl.getUniformLocation(program, 'ints'),
    };
    this.programs.set(shape, made);
    return made;
  }
  private shader(kind: number, source: string): WebGLShader {
    const { gl } = this;
    const shader = gl.createShader(kind);
    if (!shader) throw new Error('the graphics processor was taken away');
    gl.shaderSource(shader, source);
    gl.compileShader(shader);
    if (!gl.getShaderParameter(shader, gl.COMPILE_STATUS))
      throw new Error(`a shader does not compile: ${gl.getShaderInfoLog(shader) ?? ''}`);
    return shader;
  }
}

/** A table's numbers, four per entry: a curve's value and difference, or a cube's colour. */
function entriesOf(spec: TableSpec): Float32Array {
  const data = cachedTable(spec);
  if ('colours' in spec) return data;
  const out = new Float32Array(data.length * 2);
  for (let i = 0; i < data.length / 2; i++) out.set(data.subarray(i * 2, i * 2 + 2), i * 4);
  return out;
}

function padded<T extends Float32Array | Int32Array>(
  numbers: readonly number[],
  Kind: new (length: number) => T,
): T {
  const out = new Kind(Math.max(4, Math.ceil(numbers.length / 4) * 4));
  out.set(numbers);
  return out;
}

/** Computes by WebGL2: the preview on a machine with a GPU. `limit`: bytes of textures. */
export class GlslEngine extends Computer<Texture> {
  private readonly glsl: Glsl;
  constructor(gl: WebGL2RenderingContext, limit: number) {
    const glsl = new Glsl(gl, limit);
    super(glsl);
    this.glsl = glsl;
  }
  /**
   * Draws three planes of code values onto the context's canvas, which must have the picture's
   * size.
   */
  present(image: Texture): void {
    this.glsl.present(image);
  }
}
