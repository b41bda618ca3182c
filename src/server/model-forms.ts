import Joi from 'joi';
import { PREPARATION_LIMITS } from '@/core/exchange/prepare';
import type { ModelPreparation } from '@/core/exchange/prepare';
import type { MapSettings } from '@/core/mesh/analysis';

const within = (name: keyof typeof PREPARATION_LIMITS): Joi.NumberSchema => Joi.number().min(PREPARATION_LIMITS[name][0]).max(PREPARATION_LIMITS[name][1]);
const length = Joi.number().greater(0).max(1e15).required();

export const preparationForm = Joi.object<ModelPreparation>({ smooth: within('smooth'), weld: within('weld'), unit: within('unit'), unwrap: Joi.valid(true), turnRound: Joi.valid(true), zUp: Joi.valid(true) });
export const mendingForm = Joi.object<{ before: ModelPreparation; preparation: ModelPreparation }>({ before: preparationForm.required(), preparation: preparationForm.required() });

/** A map as clients name it; members in the order of its key. */
export const mapForm: Joi.Schema<MapSettings> = Joi.alternatives<MapSettings>().try(
  Joi.object({ kind: Joi.valid('curvature').required(), radius: length }),
  Joi.object({ kind: Joi.valid('occlusion').required(), reach: length, side: Joi.valid('open', 'solid', 'both').required(), falloff: Joi.number().min(0).max(1e6).required(), coneRad: Joi.number().min(0).max(Math.PI / 2).required(), floor: Joi.valid(true) }),
  Joi.object({ kind: Joi.valid('proximity').required(), part: Joi.string().max(1000).allow(null, '').required() }),
  Joi.object({ kind: Joi.valid('crease').required(), width: length, angleRad: Joi.number().min(0).max(Math.PI).required() }),
);
