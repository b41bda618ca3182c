import Joi from 'joi';
import { PREPARATION_LIMITS } from '@/core/exchange/prepare';
import type { ModelPreparation } from '@/core/exchange/prepare';
import type { MapSettings } from '@/core/mesh/analysis';
import { form } from './forms';
import type { Form } from './forms';

const within = (name: keyof typeof PREPARATION_LIMITS): Joi.NumberSchema =>
  Joi.number().min(PREPARATION_LIMITS[name][0]).max(PREPARATION_LIMITS[name][1]);
const length = Joi.number().greater(0).max(1e15).required();

export const preparationForm: Form<ModelPreparation> = form(
  Joi.object({
    smooth: within('smooth'),
    weld: within('weld'),
    unit: within('unit'),
    unwrap: Joi.valid(true),
    turnRound: Joi.valid(true),
    zUp: Joi.valid(true),
  }),
);

const mapSettings = Joi.alternatives().try(
  Joi.object({ kind: Joi.valid('curvature').required(), radius: length }),
  Joi.object({
    kind: Joi.valid('occlusion').required(),
    reach: length,
    side: Joi.valid('open', 'solid', 'both').required(),
    falloff: Joi.number().min(0).max(1e6).required(),
    coneRad: Joi.number()
      .min(0)
      .max(Math.PI / 2)
      .required(),
    floor: Joi.valid(true),
  }),
  Joi.object({
    kind: Joi.valid('proximity').required(),
    part: Joi.string().max(1000).allow(null, '').required(),
  }),
  Joi.object({
    kind: Joi.valid('crease').required(),
    width: length,
    angleRad: Joi.number().min(0).max(Math.PI).required(),
  }),
);

/** The settings of a map, as JSON text. */
export const mapForm: Form<string> = form(
  Joi.string()
    .max(4000)
    .custom((value: string, helpers) => {
      let settings: unknown;
      try {
        settings = JSON.parse(value);
      } catch {
        return helpers.message({ custom: '{{#label}} is not JSON' });
      }
      const { error } = mapSettings.validate(settings, { convert: false });
      return error ? helpers.message({ custom: `{{#label}} ${error.message}` }) : value;
    }),
);

/** Settings out of the text that `mapForm` let through. */
export const readMapSettings = (settings: string): MapSettings =>
  JSON.parse(settings) as MapSettings;
