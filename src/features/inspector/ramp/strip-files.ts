import { STRIP, drawStrip } from '@/core/edit/ramp-strip';
import { encodeRgba } from '@/core/exchange/png';
import type { RampValue } from '@/core/graph/document';
import type { RampModes } from '@/core/nodes/ramp-table';
import { readStripImage } from '@/state/strip-image';
import { saveFile } from '@/ui/save-file';
import { toast } from 'sonner';

/** Offers a strip image of the ramp as a download. */
export function saveStrip(ramp: RampValue, modes: RampModes): void {
  const png = encodeRgba(STRIP.width, STRIP.height, drawStrip(ramp, modes));
  saveFile(new Blob([png], { type: 'image/png' }), 'ramp.png');
}

/** A ramp from a strip image, with a word on how near it comes. @throws AppError */
export async function readStrip(file: File): Promise<RampValue> {
  const { ramp, difference } = await readStripImage(file);
  const near =
    difference <= 1 / 255
      ? 'nowhere visibly different'
      : `up to ${(difference * 100).toFixed(1)} % different`;
  toast(`Read ${String(ramp.stops.length)} stops from ${file.name}, ${near}`);
  return ramp;
}
