import Joi from 'joi';
import { assertNever } from '@/core/base/assert';
import { PREPARATION_LIMITS } from '@/core/exchange/prepare';
import type { ModelPreparation } from '@/core/exchange/prepare';
import type { MapSettings } from '@/core/mesh/analysis';
import type { MapDefinition, SettingForm } from '@/core/mesh/maps/define';
import { MAP_KINDS } from '@/core/mesh/maps/registry.generated';
import { form } from './forms';
import type { Form } from './forms';

const within = (name: keyof typeof PREPARATION_LIMITS): Joi.NumberSchema =>
  Joi.number().min(PREPARATION_LIMITS[name][0]).max(PREPARATION_LIMITS[name][1]);

export const preparationForm: Form<ModelPreparation> = form(
  Joi.object({
    smooth: within('smooth'),
    weld: within('weld'),
    unit: within('unit'),
    unwrap: Joi.valid(true),
    flipWinding: Joi.valid(true),
    zUp: Joi.valid(true),
  }),
);

function settingForm(of: SettingForm): Joi.Schema {
  switch (of.type) {
    case 'number':
      return Joi.number().min(of.least).max(of.most).required();
    case 'choice':
      return Joi.valid(...of.choices).required();
    case 'part':
      return Joi.string().max(1000).allow(null, '').required();
    case 'flag':
      return Joi.valid(true);
    case 'truth':
      return Joi.boolean().required();
    case 'place':
      return Joi.array().items(Joi.number()).length(3).required();
    default:
      return assertNever(of);
  }
}
/** Settings of maps that are shared; those measured by a network's normals are not. */
const mapSettings = Joi.alternatives().try(
  ...Object.entries<MapDefinition>(MAP_KINDS)
    .filter(([, { isTransient }]) => !isTransient)
    .map(([kind, { settings }]) =>
      Joi.object({
        kind: Joi.valid(kind).required(),
        ...Object.fromEntries(
          Object.entries(settings).map(([name, of]) => [name, settingForm(of)]),
        ),
      }),
    ),
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
