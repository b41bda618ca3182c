import type { Sketch } from './shape-sketch';
import { bell } from './demo/bell';
import { buoy } from './demo/buoy';
import { floats } from './demo/floats';
import { quay } from './demo/quay';
import { study } from './demo/study';
import { tile } from './demo/tile';

/** A model of the demo scenario, made by code. */
export interface DemoModel {
  readonly name: string;
  readonly title: string;
  readonly hasUvs: boolean;
  readonly make: () => Sketch;
}

/** The models of the demo scenario, made by this code. */
export const DEMO_MODELS: readonly DemoModel[] = [
  { name: 'study', title: 'Study form', hasUvs: true, make: study },
  { name: 'buoy', title: 'Channel buoy', hasUvs: true, make: buoy },
  { name: 'bell', title: 'Mooring bell', hasUvs: true, make: bell },
  { name: 'floats', title: 'String of floats', hasUvs: true, make: floats },
  { name: 'quay', title: 'Quay corner', hasUvs: false, make: quay },
  { name: 'tile', title: 'Tile', hasUvs: true, make: tile },
];
