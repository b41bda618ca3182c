import { NetworkSketch } from '../network-sketch';
import { factor, lift, ready, times } from './define';

export const maskTightener = ready(
  'Mask tightener',
  ['tighten', 'sharpen mask', 'contrast of a mask', 'choke', 'spread'],
  'Makes a soft mask crisp, or a crisp one wider or narrower, without leaving 0–1.',
  {
    sketch: new NetworkSketch()
      .node('cut', 'ranges.smoothstep', { name: 'Cut', values: { edge: 0.5, width: 0.5 } })
      .wire('@in.mask > cut.value'),
    inputs: [
      { id: 'mask', name: 'Mask', kind: 'scalar', help: 'What is tightened.', fallback: 0.5 },
    ],
    outputs: [{ id: 'tight', name: 'Tight mask', kind: 'scalar', from: 'cut.mask' }],
    dials: [
      factor(
        'level',
        ['Level', 'Where the mask is cut; 1 in its middle.', 'it spreads', 'it shrinks'],
        lift('cut', 'edge', 0.5),
      ),
      factor(
        'softness',
        ['Softness', 'How soft the border is; 1 as designed.', 'a hard border', 'a soft border'],
        times('cut', 'width'),
      ),
    ],
    limits: 'A mask that is 0 or 1 everywhere has no slope left to move along.',
  },
);
