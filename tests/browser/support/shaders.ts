/** Shaders run at points in the real browser. */
import type { Page } from '@playwright/test';

/** At how many points. */
export const POINTS = 256;
/** A point shader, and what it is given. */
export interface ShaderRun {
  /** How many outputs it writes. */
  readonly outputs: number;
  readonly shader: string;
  readonly valuesIn: 'array' | 'texture';
  readonly images: readonly {
    readonly stride: number;
    readonly rows: number;
    readonly data: number[];
  }[];
  readonly values: number[];
  readonly rows: number[][];
}

/** Runs point shaders in the browser and reads back what each writes: a list per output. */
export async function runShaders(page: Page, runs: readonly ShaderRun[]): Promise<number[][]> {
  const written = await page.evaluate(
    ({ given, count }) => {
      const gl = document.createElement('canvas').getContext('webgl2');
      if (!gl?.getExtension('EXT_color_buffer_float')) throw new Error('no float targets');
      const compile = (type: number, text: string): WebGLShader => {
        const shader = gl.createShader(type) as WebGLShader;
        gl.shaderSource(shader, text);
        gl.compileShader(shader);
        if (!gl.getShaderParameter(shader, gl.COMPILE_STATUS))
          throw new Error(gl.getShaderInfoLog(shader) ?? 'no log');
        return shader;
      };
      const texture = (
        width: number,
        height: number,
        format: number,
        source: number,
        data: Float32Array | null,
      ): WebGLTexture => {
        const made = gl.createTexture();
        gl.bindTexture(gl.TEXTURE_2D, made);
        gl.texImage2D(gl.TEXTURE_2D, 0, format, width, height, 0, source, gl.FLOAT, data);
        for (const name of [gl.TEXTURE_MIN_FILTER, gl.TEXTURE_MAG_FILTER])
          gl.texParameteri(gl.TEXTURE_2D, name, gl.NEAREST);
        return made;
      };
      gl.bindFramebuffer(gl.FRAMEBUFFER, gl.createFramebuffer());
      const attachments = [0, 1, 2, 3].map((k) => gl.COLOR_ATTACHMENT0 + k);
      for (const attachment of attachments) {
        const target = texture(count, 1, gl.RGBA32F, gl.RGBA, null);
        gl.framebufferTexture2D(gl.FRAMEBUFFER, attachment, gl.TEXTURE_2D, target, 0);
      }
      gl.drawBuffers(attachments);
      gl.viewport(0, 0, count, 1);
      const vertex = compile(
        gl.VERTEX_SHADER,
        '#version 300 es\nvoid main() { gl_Position = vec4(vec2(gl_VertexID == 1 ? 3.0 : ' +
          '-1.0, gl_VertexID == 2 ? 3.0 : -1.0), 0.0, 1.0); }',
      );
      return given.map(({ shader, values, rows, images, valuesIn }) => {
        const program = gl.createProgram();
        gl.attachShader(program, vertex);
        gl.attachShader(program, compile(gl.FRAGMENT_SHADER, shader));
        gl.linkProgram(program);
        gl.useProgram(program);
        const points = texture(
          count,
          Math.max(1, rows.length),
          gl.R32F,
          gl.RED,
          Float32Array.from(rows.length > 0 ? rows.flat() : new Array<number>(count).fill(0)),
        );
        gl.bindTexture(gl.TEXTURE_2D, points);
        gl.uniform1i(gl.getUniformLocation(program, 'points'), 0);
        const bind = (
          name: string,
          unit: number,
          width: number,
          height: number,
          data: Float32Array,
        ): void => {
          gl.activeTexture(gl.TEXTURE0 + unit);
          texture(width, height, gl.RGBA32F, gl.RGBA, data);
          gl.uniform1i(gl.getUniformLocation(program, name), unit);
        };
        images.forEach((image, k) => {
          bind(`image${String(k)}`, k + 2, image.stride, image.rows, Float32Array.from(image.data));
        });
        if (valuesIn === 'array')
          gl.uniform4fv(gl.getUniformLocation(program, 'values'), Float32Array.from(values));
        else {
          const height = Math.ceil(values.length / 1024);
          const rowsOf = new Float32Array(height * 1024);
          rowsOf.set(values);
          bind('values', 1, 256, height, rowsOf);
        }
        gl.activeTexture(gl.TEXTURE0);
        gl.drawArrays(gl.TRIANGLES, 0, 3);
        gl.deleteProgram(program);
        return attachments.flatMap((attachment) => {
          const read = new Float32Array(count * 4);
          gl.readBuffer(attachment);
          gl.readPixels(0, 0, count, 1, gl.RGBA, gl.FLOAT, read);
          return [0, 1, 2, 3].map((lane) =>
            Array.from({ length: count }, (_, k) => read[k * 4 + lane] as number),
          );
        });
      });
    },
    { given: runs, count: POINTS },
  );
  return written.flatMap((lists, k) => lists.slice(0, runs[k]?.outputs));
}
