import type { Companions, Triple } from '../graph/document';
import { directionToWorld } from './model-scale';
import type { ModelBounds, Placement } from './model-scale';

/** Between two models, in sizes of the current one. */
const GAP = 0.12;
/**
 * A model this many times smaller or larger than the current one is still shown at its true size.
 */
const SIZE_LIMIT = 1e4;

interface Box {
  readonly low: Triple;
  readonly high: Triple;
}

/** The box of a model that is enlarged and turned about its own origin. */
function boxOf({ minimum, extent }: ModelBounds, placement: Placement): Box {
  const corners = Array.from({ length: 8 }, (_, k) =>
    directionToWorld(
      [0, 1, 2].map(
        (axis) =>
          ((minimum[axis] as number) + ((k >> axis) & 1) * (extent[axis] as number)) *
          placement.scale,
      ) as unknown as Triple,
      placement,
    ),
  );
  const along = (pick: (...values: number[]) => number): Triple =>
    [0, 1, 2].map((axis) =>
      pick(...corners.map((corner) => corner[axis] as number)),
    ) as unknown as Triple;
  return { low: along(Math.min), high: along(Math.max) };
}

/**
 * Where each companion stands: on the ground of the current model, right and left of it in turn, in
 * line with its middle.
 */
export function placeCompanions(
  current: ModelBounds,
  others: readonly { readonly bounds: ModelBounds; readonly turn: number }[],
  sizes: Companions['sizes'],
): readonly Placement[] {
  const { minimum, extent } = current;
  const gap = current.size * GAP;
  let right = minimum[0] + extent[0] + gap,
    left = minimum[0] - gap;
  return others.map(({ bounds, turn }, k) => {
    const ratio = current.size / Math.max(bounds.size, 1e-30);
    const scale =
      sizes === 'alike' ? ratio : Math.min(Math.max(1, ratio / SIZE_LIMIT), ratio * SIZE_LIMIT);
    const { low, high } = boxOf(bounds, { at: [0, 0, 0], turn, scale });
    const width = high[0] - low[0];
    const isRight = k % 2 === 0;
    const x = (isRight ? right : left - width) - low[0];
    if (isRight) right += width + gap;
    else left -= width + gap;
    return {
      turn,
      scale,
      at: [x, minimum[1] - low[1], minimum[2] + extent[2] / 2 - (low[2] + high[2]) / 2],
    };
  });
}

/** The box around several models. */
export function boundsOfAll(
  current: ModelBounds,
  others: readonly { readonly bounds: ModelBounds; readonly placement: Placement }[],
): { readonly centre: Triple; readonly size: number } {
  const boxes = others.map(({ bounds, placement }) => {
    const { low, high } = boxOf(bounds, placement);
    const moved = (corner: Triple): Triple => [
      corner[0] + placement.at[0],
      corner[1] + placement.at[1],
      corner[2] + placement.at[2],
    ];
    return { low: moved(low), high: moved(high) };
  });
  const low = [0, 1, 2].map((axis) =>
    Math.min(current.minimum[axis] as number, ...boxes.map((box) => box.low[axis] as number)),
  );
  const high = [0, 1, 2].map((axis) =>
    Math.max(
      (current.minimum[axis] as number) + (current.extent[axis] as number),
      ...boxes.map((box) => box.high[axis] as number),
    ),
  );
  return {
    centre: low.map((x, axis) => (x + (high[axis] as number)) / 2) as unknown as Triple,
    size: Math.hypot(...low.map((x, axis) => (high[axis] as number) - x)),
  };
}
