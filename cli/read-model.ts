import { readFile } from 'node:fs/promises';
import path from 'node:path';
import { AppError, errorMessage } from '@/core/base/diagnostic';
import { readModel as readModelFile } from '@/core/exchange/read-model';
import { PREPARATION_LIMITS } from '@/core/exchange/prepare';
import type { ModelPreparation } from '@/core/exchange/prepare';
import { DEMO_MODELS } from '@/core/mesh/demo-models';
import type { SurfaceMesh } from '@/core/mesh/surface-mesh';
import { UsageError } from './arguments';
import type { Arguments } from './arguments';

/** A model by file name, or `demo:NAME`; what was corrected in it is told. */
export async function readModel(
  model: string,
  complain: (text: string) => void,
  preparation: ModelPreparation = {},
): Promise<SurfaceMesh> {
  const { mesh, notes } = await readModelFile(
    await modelBytes(model),
    path.basename(model).replace(/^demo:|\.(glb|obj)$/g, ''),
    { preparation },
  );
  for (const note of notes) complain(note);
  return mesh;
}

async function modelBytes(model: string): Promise<Uint8Array<ArrayBuffer>> {
  if (model.startsWith('demo:')) {
    const name = model.slice(5);
    if (!DEMO_MODELS.some((each) => each.name === name))
      throw new UsageError(
        `There is no demo model “${name}”; there are ` +
          `${DEMO_MODELS.map((each) => each.name).join(', ')}.`,
      );
    return new Uint8Array(
      await readFile(path.resolve(import.meta.dirname, `../assets/models/${name}.glb`)),
    );
  }
  try {
    return new Uint8Array(await readFile(model));
  } catch (cause) {
    throw new AppError('file.unreadable', `${model} cannot be read: ${errorMessage(cause)}.`, '', {
      cause,
    });
  }
}

/**
 *  The cures asked for on the command line: --smooth DEGREES, --weld SHARE, --unwrap, --flip-
 *  winding.
 */
export function readPreparation(values: Arguments['values']): ModelPreparation {
  const number = (name: keyof typeof PREPARATION_LIMITS): number | undefined => {
    const given = values[name];
    if (given === undefined) return undefined;
    const [low, high] = PREPARATION_LIMITS[name],
      value = Number(given);
    if (!(value >= low && value <= high))
      throw new UsageError(`--${name} is a number from ${String(low)} to ${String(high)}.`);
    return value;
  };
  const [smooth, weld] = [number('smooth'), number('weld')];
  return {
    ...(smooth === undefined ? {} : { smooth }),
    ...(weld === undefined ? {} : { weld }),
    ...(values['unwrap'] === true ? { unwrap: true } : {}),
    ...(values['flip-winding'] === true ? { flipWinding: true } : {}),
  };
}
