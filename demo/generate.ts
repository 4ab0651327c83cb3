/**
 * Draws the demo's footage: each scene is a fragment shader, rendered sample by sample over an open
 * shutter in Debian's headless Chromium (software WebGL2, so the same on any machine), given a
 * camera's noise and encoding, and encoded.
 *   npx tsx demo/generate.ts [clip or plate …] [--still t]   (without names: every clip and plate)
 *   npx tsx demo/generate.ts [clip …] --motion               (only where what is seen moves to, of scenes that say it)
 */
import { chromium, type Page } from '@playwright/test';
import { once } from 'node:events';
import { spawn } from 'node:child_process';
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:http';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { PLATES } from './plates';
import { SCENES, type SceneSpec } from './scenes';
import { soundFile } from './sound';

const here = import.meta.dirname;
const source = (file: string) => readFileSync(join(here, 'scenes', file), 'utf8');
const fragment = ({ name, plate }: SceneSpec, truth = false) => {
  const scene = source(`${plate ? 'plates/' : ''}${name}.glsl`);
  return [
    '#version 300 es',
    truth ? '#define TRUTH' : '',
    source('_common.glsl'),
    scene.includes('figureMarch') ? source('_figure.glsl') : '',
    scene,
    source(truth ? '_truth.glsl' : '_main.glsl'),
  ].join('\n');
};
const saysMotion = ({ name, plate }: SceneSpec): boolean =>
  !plate && source(`${name}.glsl`).includes('TRUTH');

/**
 * Runs inside the page: compiles the scene and returns a function that draws one frame as 16-bit
 * RGB and an 8-bit matte.
 */
function stage(arg: { fragment: string; spec: SceneSpec }): string {
  const { spec } = arg;
  const [w, h] = spec.size;
  const canvas = document.createElement('canvas');
  const gl = canvas.getContext('webgl2')!;
  gl.getExtension('EXT_color_buffer_float');
  const build = (type: number, text: string) => {
    const s = gl.createShader(type)!;
    gl.shaderSource(s, text);
    gl.compileShader(s);
    if (!gl.getShaderParameter(s, gl.COMPILE_STATUS))
      throw new Error(gl.getShaderInfoLog(s) ?? 'shader');
    return s;
  };
  const program = gl.createProgram()!;
  gl.attachShader(
    program,
    build(
      gl.VERTEX_SHADER,
      '#version 300 es\nvoid main(){ gl_Position = vec4(gl_VertexID == 1 ? 3. : -1., gl_VertexID == 2 ? 3. : -1., 0., 1.); }',
    ),
  );
  gl.attachShader(program, build(gl.FRAGMENT_SHADER, arg.fragment));
  gl.linkProgram(program);
  if (!gl.getProgramParameter(program, gl.LINK_STATUS))
    throw new Error(gl.getProgramInfoLog(program) ?? 'link');
  gl.useProgram(program);
  const texture = gl.createTexture();
  gl.bindTexture(gl.TEXTURE_2D, texture);
  gl.texStorage2D(gl.TEXTURE_2D, 1, gl.RGBA32F, w, h);
  gl.bindFramebuffer(gl.FRAMEBUFFER, gl.createFramebuffer());
  gl.framebufferTexture2D(gl.FRAMEBUFFER, gl.COLOR_ATTACHMENT0, gl.TEXTURE_2D, texture, 0);
  gl.viewport(0, 0, w, h);
  const at = (n: string) => gl.getUniformLocation(program, n);
  const pixels = new Float32Array(w * h * 4);
  let state = 1;
  const random = () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return state / 4294967296;
  };
  const gauss = () => random() + random() + random() + random() - 2;
  const encode = (x: number) => {
    if (spec.encoding === 'acescct')
      return x <= 0.0078125
        ? 10.5402377416545 * x + 0.0729055341958355
        : (Math.log2(x) + 9.72) / 17.52;
    return Math.pow(Math.max(x, 0), 1.18 / 2.4); // the camera's picture: a system gamma of 1.18 over the scene
  };
  // A camera whose log carries the ACES AP1 primaries: linear BT.709 to AP1, D65 adapted to the
  // ACES white (Bradford).
  const AP1 = [
    0.6130974, 0.33952314, 0.04737945, 0.07019373, 0.91635388, 0.01345239, 0.02061559, 0.10956977,
    0.86981463,
  ];
  // Highlights roll off before they clip, as a camera's do.
  const shoulder = (x: number) =>
    spec.encoding === 'acescct' || x < 0.7
      ? x
      : 0.7 + 0.3 * (1 - Math.exp(-(x - 0.7) / 0.42)) * 1.02;
  const draw = async (frame: number, time: number) => {
    gl.uniform1f(at('uTime0'), time);
    gl.uniform1f(at('uShutter'), (0.5 * spec.rate[1]) / spec.rate[0]);
    gl.uniform2f(at('uSize'), w, h);
    gl.uniform1i(at('uFrame'), frame);
    gl.uniform1i(at('uSamples'), spec.samples);
    gl.drawArrays(gl.TRIANGLES, 0, 3);
    gl.readPixels(0, 0, w, h, gl.RGBA, gl.FLOAT, pixels);
    const covering = spec.plate?.startsWith('covering') ?? false,
      n = covering ? 4 : 3;
    const rgb = new Uint16Array(w * h * n);
    const matte = new Uint8Array(w * h);
    state = frame * 2654435761 + 12345;
    const gain = spec.gains.map((g) => g * 2 ** spec.exposure);
    for (let y = 0; y < h; y++)
      for (let x = 0; x < w; x++) {
        const i = ((h - 1 - y) * w + x) * 4,
          o = y * w + x;
        // Scenes give colour times coverage; files keep it plain.
        const cover = covering ? Math.max(pixels[i + 3]!, 1e-6) : 1;
        const lit = [0, 1, 2].map((c) => (pixels[i + c]! / cover) * gain[c]!);
        for (let c = 0; c < 3; c++) {
          const light =
            spec.encoding === 'acescct'
              ? AP1[c * 3]! * lit[0]! + AP1[c * 3 + 1]! * lit[1]! + AP1[c * 3 + 2]! * lit[2]!
              : lit[c]!;
          const noisy =
            light +
            gauss() * spec.noise * Math.sqrt(Math.max(light, 0.002) / 0.18) * (c === 2 ? 1.4 : 1);
          rgb[o * n + c] = Math.round(Math.min(1, Math.max(0, encode(shoulder(noisy)))) * 65535);
        }
        if (covering) rgb[o * n + 3] = Math.round(Math.min(1, pixels[i + 3]!) * 65535);
        matte[o] = Math.round(pixels[i + 3]! * 255);
      }
    await fetch('/rgb', { method: 'POST', body: rgb });
    if (spec.matte) await fetch('/matte', { method: 'POST', body: matte });
  };
  /**
   * Where every fourth pixel each way lies `step` seconds later: right, down (sixty-fourths of a
   * pixel), what it is, whether it is seen.
   */
  const follow = async (time: number, step: number) => {
    gl.uniform1f(at('uTime0'), time);
    gl.uniform1f(at('uStep'), step);
    gl.uniform1f(at('uShutter'), (0.5 * spec.rate[1]) / spec.rate[0]);
    gl.uniform2f(at('uSize'), w, h);
    gl.drawArrays(gl.TRIANGLES, 0, 3);
    gl.readPixels(0, 0, w, h, gl.RGBA, gl.FLOAT, pixels);
    const found: number[] = [];
    for (let y = 2; y < h; y += 4)
      for (let x = 2; x < w; x += 4) {
        const i = ((h - 1 - y) * w + x) * 4;
        const inSixtyFourths = (v: number) => Math.max(-32767, Math.min(32767, Math.round(v * 64)));
        found.push(
          inSixtyFourths(pixels[i]!),
          inSixtyFourths(pixels[i + 1]!),
          pixels[i + 2]!,
          pixels[i + 3]!,
        );
      }
    await fetch('/motion', { method: 'POST', body: new Int16Array(found) });
  };
  /**
   * Where what is seen at each of some pixels lies each of some times later: right, down (pixels
   * from it), whether it is seen.
   */
  const trace = (
    time: number,
    steps: readonly number[],
    from: readonly (readonly [number, number])[],
  ): number[][][] => {
    gl.uniform1f(at('uTime0'), time);
    gl.uniform1f(at('uShutter'), (0.5 * spec.rate[1]) / spec.rate[0]);
    gl.uniform2f(at('uSize'), w, h);
    gl.enable(gl.SCISSOR_TEST);
    const one = new Float32Array(4);
    const traced = from.map(([x, y]) => {
      gl.scissor(x, h - 1 - y, 1, 1);
      return steps.map((step) => {
        gl.uniform1f(at('uStep'), step);
        gl.drawArrays(gl.TRIANGLES, 0, 3);
        gl.readPixels(x, h - 1 - y, 1, 1, gl.RGBA, gl.FLOAT, one);
        return [one[0]!, one[1]!, one[3]!];
      });
    });
    gl.disable(gl.SCISSOR_TEST);
    return traced;
  };
  Object.assign(window, { draw, follow, trace });
  return 'ready';
}

interface Stage {
  draw(frame: number, time: number): Promise<void>;
  follow(time: number, step: number): Promise<void>;
  trace(
    time: number,
    steps: readonly number[],
    from: readonly (readonly [number, number])[],
  ): number[][][];
}

/** Frames of which the motion is kept as truth. */
const FOLLOWED = [8, 20, 32, 44, 56, 68];
/**
 * Writes `truth/NAME.motion.gz`: a line of JSON (size, spacing of the grid, frames), then of each
 * frame the motion to the next and to the one before, four 16-bit numbers a grid point.
 */
async function writeMotion(
  page: Page,
  spec: SceneSpec,
  sinks: Record<string, (b: Buffer) => Promise<void>>,
): Promise<void> {
  const parts: Buffer[] = [];
  sinks['/motion'] = async (b) => void parts.push(b);
  const frame = spec.rate[1] / spec.rate[0];
  for (const f of FOLLOWED)
    for (const step of [frame, -frame])
      await page.evaluate(
        ([time, by]) => (window as unknown as Stage).follow(time!, by!),
        [f * frame, step],
      );
  const middle = parts[2 * 2]!;
  await writePoints(
    page,
    spec,
    new Int16Array(middle.buffer, middle.byteOffset, middle.byteLength / 2),
  );
  const head = `${JSON.stringify({ size: spec.size, first: 2, spacing: 4, frames: FOLLOWED })}\n`;
  writeFileSync(
    join(here, 'truth', `${spec.name}.motion.gz`),
    gzipSync(Buffer.concat([Buffer.from(head), ...parts]), { level: 9 }),
  );
}

/** Points a thing of which the whole way is kept. */
const POINTS_A_THING = 3;
/**
 * Writes `truth/NAME.points.json`: points seen in the clip's middle, some on each thing, as far
 * from one another as they can be, and where each lies in every frame (pixels, from the top left
 * corner's corner) and whether it is seen there.
 */
async function writePoints(page: Page, spec: SceneSpec, middle: Int16Array): Promise<void> {
  const [w, h] = spec.size.map((s) => Math.ceil((s - 2) / 4)) as [number, number];
  const frame = spec.rate[1] / spec.rate[0],
    from = FOLLOWED[2]!;
  const on = new Map<number, [number, number][]>();
  for (let y = 4; y < h - 4; y++)
    for (let x = 4; x < w - 4; x++) {
      const object = (dx: number, dy: number) => middle[((y + dy) * w + x + dx) * 4 + 2]!;
      const here = object(0, 0);
      // Not at the edge of a thing.
      if (
        here === 0 ||
        [object(-1, 0), object(1, 0), object(0, -1), object(0, 1)].some((o) => o !== here)
      )
        continue;
      on.set(here, [...(on.get(here) ?? []), [2 + 4 * x, 2 + 4 * y]]);
    }
  const points = [...on]
    .sort(([a], [b]) => a - b)
    .flatMap(([object, all]) => farApart(all).map((at) => ({ object, at })));
  const traced = await page.evaluate(
    ([time, steps, at]) => (window as unknown as Stage).trace(time, steps, at),
    [
      from * frame,
      Array.from({ length: spec.frames }, (_, f) => (f - from) * frame),
      points.map((p) => p.at),
    ] as const,
  );
  const lines = points.map(({ object, at: [x, y] }, i) => {
    const way = traced[i]!.map(([dx, dy, seen]) =>
      [x + 0.5 + dx!, y + 0.5 + dy!].map((v) => Math.round(v * 100) / 100).concat(seen!),
    );
    return JSON.stringify({ object, way });
  });
  writeFileSync(
    join(here, 'truth', `${spec.name}.points.json`),
    `{"size":${JSON.stringify(spec.size)},"seenIn":${from},"points":[\n${lines.join(',\n')}\n]}\n`,
  );
}
/** Some of many places, each next the one farthest from those taken. */
function farApart(all: readonly [number, number][]): [number, number][] {
  const taken = [all[Math.floor(all.length / 2)]!];
  const away = ([x, y]: [number, number]) =>
    Math.min(...taken.map(([a, b]) => (x - a) ** 2 + (y - b) ** 2));
  while (taken.length < POINTS_A_THING) {
    const next = all.reduce((best, at) => (away(at) > away(best) ? at : best));
    if (away(next) < 16 ** 2) break;
    taken.push(next);
  }
  return taken;
}

async function drawAll(page: Page, spec: SceneSpec): Promise<void> {
  const began = Date.now();
  for (let f = 0; f < spec.frames; f++) {
    await page.evaluate(
      ([frame, time]) => (window as unknown as Stage).draw(frame!, time!),
      [f, (f * spec.rate[1]) / spec.rate[0]],
    );
    if (f % 20 === 0)
      console.log(
        `${spec.name}: frame ${f} of ${spec.frames}, ${((Date.now() - began) / 1000).toFixed(0)} s`,
      );
  }
}

const encoder = (args: string[]) => {
  const child = spawn('ffmpeg', ['-v', 'error', '-y', ...args], {
    stdio: ['pipe', 'inherit', 'inherit'],
  });
  // It may end by itself, with the only frame of a picture.
  const ended = new Promise<void>((ok, no) =>
    child.on('exit', (c) => (c ? no(new Error(`ffmpeg ended with ${c}`)) : ok())),
  );
  return {
    write: (b: Buffer) =>
      new Promise<void>((ok) => (child.stdin.write(b) ? ok() : child.stdin.once('drain', ok))),
    end: (): Promise<void> => {
      child.stdin.end();
      return ended;
    },
  };
};

const X264 = ['-c:v', 'libx264', '-preset', 'slow'];
const DELIVERED = [
  '-colorspace',
  'bt709',
  '-color_range',
  'tv',
  '-color_primaries',
  'bt709',
  '-color_trc',
  'bt709',
];
/** How a plate is kept, and under which name. */
const PLATE_FILES: Record<NonNullable<SceneSpec['plate']>, (spec: SceneSpec) => string[]> = {
  film: ({ name, crf }) => [
    ...[
      '-vf',
      'scale=out_color_matrix=bt709:out_range=tv,format=yuv420p',
      ...X264,
      '-crf',
      String(crf),
      ...DELIVERED,
      '-movflags',
      '+faststart',
    ],
    `${name}.mp4`,
  ],
  'covering-film': ({ name, crf }) => [
    ...[
      '-vf',
      'scale=out_color_matrix=bt709:out_range=tv,format=yuva420p',
      '-c:v',
      'libvpx-vp9',
      '-crf',
      String(crf),
      '-b:v',
      '0',
      ...DELIVERED,
    ],
    `${name}.webm`,
  ],
  'covering-still': ({ name }) => ['-pix_fmt', 'rgba', '-frames:v', '1', `${name}.png`],
};

async function main() {
  const stillAt = process.argv.indexOf('--still');
  const still = stillAt > 0 ? process.argv[stillAt + 1]!.split(',').map(Number) : undefined;
  const names = process.argv
    .slice(2)
    .filter((a, i) => !a.startsWith('--') && i + 2 !== stillAt + 1);
  const sinks: Record<string, (b: Buffer) => Promise<void>> = {};
  const server = createServer((req, res) => {
    if (req.method !== 'POST')
      return void res.setHeader('content-type', 'text/html').end('<!doctype html><body>');
    const parts: Buffer[] = [];
    req
      .on('data', (c: Buffer) => parts.push(c))
      .on('end', () => void sinks[req.url!]!(Buffer.concat(parts)).then(() => res.end('ok')));
  }).listen(0, '127.0.0.1');
  await once(server, 'listening');
  const port = (server.address() as { port: number }).port;
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: [
      '--no-sandbox',
      '--use-gl=angle',
      '--use-angle=swiftshader',
      '--enable-unsafe-swiftshader',
      '--disable-background-networking',
    ],
  });
  for (const spec of [...SCENES, ...PLATES].filter(
    (s) => names.length === 0 || names.includes(s.name),
  )) {
    const [w, h] = spec.size;
    const began = Date.now();
    const page = await browser.newPage();
    page.setDefaultTimeout(0);
    await page.addInitScript('globalThis.__name = (f) => f'); // the TypeScript runner names functions with it
    await page.goto(`http://127.0.0.1:${port}/`);
    const motion = process.argv.includes('--motion');
    if (motion && !saysMotion(spec)) {
      await page.close();
      continue;
    }
    await page.evaluate(stage, { fragment: fragment(spec, motion), spec });
    if (motion) {
      mkdirSync(join(here, 'truth'), { recursive: true });
      await writeMotion(page, spec, sinks);
      console.log(`${spec.name}: motion in ${((Date.now() - began) / 1000).toFixed(0)} s`);
      await page.close();
      continue;
    }
    const raw = ['-f', 'rawvideo', '-s', `${w}x${h}`, '-r', spec.rate.join('/')];
    if (still) {
      for (const [k, t] of still.entries()) {
        const covering = spec.plate?.startsWith('covering');
        const png = encoder([
          ...raw,
          '-pix_fmt',
          covering ? 'rgba64le' : 'rgb48le',
          '-i',
          '-',
          '-pix_fmt',
          covering ? 'rgba' : 'rgb24',
          `/tmp/still-${spec.name}-${k}.png`,
        ]);
        sinks['/rgb'] = (b) => png.write(b);
        sinks['/matte'] = async () => {};
        await page.evaluate(([f, time]) => (window as unknown as Stage).draw(f!, time!), [k, t]);
        await png.end();
      }
      console.log(
        `${spec.name}: ${still.length} stills in ${((Date.now() - began) / 1000).toFixed(1)} s`,
      );
      await page.close();
      continue;
    }
    if (spec.plate) {
      mkdirSync(join(here, 'plates'), { recursive: true });
      const kept = PLATE_FILES[spec.plate](spec);
      const film = encoder([
        ...[...raw, '-pix_fmt', spec.plate === 'film' ? 'rgb48le' : 'rgba64le', '-i', '-'],
        ...kept.slice(0, -1),
        join(here, 'plates', kept.at(-1)!),
      ]);
      sinks['/rgb'] = (b) => film.write(b);
      await drawAll(page, spec);
      await film.end();
      await page.close();
      console.log(`${spec.name}: drawn in ${((Date.now() - began) / 1000).toFixed(0)} s`);
      continue;
    }
    mkdirSync(join(here, 'footage'), { recursive: true });
    mkdirSync(join(here, 'truth'), { recursive: true });
    const sound = spec.sound
      ? [
          '-i',
          soundFile(spec.sound, (spec.frames * spec.rate[1]) / spec.rate[0]),
          '-c:a',
          'aac',
          '-b:a',
          '128k',
          '-ar',
          '48000',
        ]
      : [];
    const log = spec.encoding === 'acescct';
    // Log footage is left untagged, as a camera's log usually is: the person says what it is.
    const tags = log ? [] : ['-color_primaries', 'bt709', '-color_trc', 'bt709'];
    const video = encoder([
      ...raw,
      '-pix_fmt',
      'rgb48le',
      '-i',
      '-',
      ...sound,
      '-vf',
      `scale=out_color_matrix=bt709:out_range=tv,format=${log ? 'yuv422p10le' : 'yuv420p'}`,
      '-c:v',
      'libx264',
      '-preset',
      'slow',
      '-crf',
      String(spec.crf),
      '-maxrate',
      '7M',
      '-bufsize',
      '7M',
      '-g',
      '25',
      '-colorspace',
      'bt709',
      '-color_range',
      'tv',
      ...tags,
      '-movflags',
      '+faststart',
      join(here, 'footage', `${spec.name}.mp4`),
    ]);
    const matte = spec.matte
      ? encoder([
          ...raw,
          '-pix_fmt',
          'gray',
          '-i',
          '-',
          '-vf',
          'format=yuv420p',
          '-c:v',
          'libx264',
          '-crf',
          '16',
          '-preset',
          'slow',
          join(here, 'truth', `${spec.name}.matte.mp4`),
        ])
      : undefined;
    sinks['/rgb'] = (b) => video.write(b);
    sinks['/matte'] = (b) => matte!.write(b);
    await drawAll(page, spec);
    await video.end();
    await matte?.end();
    await page.close();
  }
  mkdirSync(join(here, 'truth'), { recursive: true });
  writeFileSync(
    join(here, 'truth', 'cameras.json'),
    JSON.stringify(
      SCENES.map(({ name, exposure, gains, encoding }) => ({ name, exposure, gains, encoding })),
      null,
      2,
    ) + '\n',
  );
  await browser.close();
  server.close();
}
await main();
