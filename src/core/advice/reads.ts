import type { ResultKey } from '../base/ids';
import { own } from '../base/own';
import { chosenOptions, findNodeDefinition } from '../compile/catalogue';
import { listLights } from '../compile/lights';
import { orderedStops, stopPlaces } from '../compile/ramp-rows';
import { getInputValue, rampModes } from '../compile/uniforms';
import { isRamp, isTriple } from '../graph/document';
import { arrivingKey, outputKey } from '../graph/result-key';
import type { AdviceReads, ValueRange } from '../nodes/advice';
import { isDriven, pathTo } from './places';
import type { NodePlace } from './places';

/** Finds the range of a result by its key; null where it was not measured. */
export type RangeLookup = (key: ResultKey) => ValueRange | null;

/** What a node may look at to advise on itself. */
export function readsOf(place: NodePlace, lookup: RangeLookup): AdviceReads {
  const { document, node, network } = place;
  const definition = findNodeDefinition(node);
  const options = definition ? chosenOptions(definition, node) : {};
  return {
    arriving: (input) => lookup(arrivingKey(pathTo(place), input)),
    result: (output) => lookup(outputKey(pathTo(place), output)),
    isWired: (input) =>
      network.strands.some((strand) => strand.to.node === node.id && strand.to.input === input),
    isFixed: (input) =>
      !isDriven(place, input) &&
      !network.strands.some(({ to }) => to.node === node.id && to.input === input),
    isTyped: (input) => own(node.values, input) !== undefined,
    choice: (option) => options[option] ?? '',
    triple: (input) => {
      const value = getInputValue(node, input);
      return isTriple(value) ? value : null;
    },
    lamps: listLights(document).map(
      ({ intensity, colour }) => intensity > 0 && colour.some((channel) => channel > 0),
    ),
    number: (input) => {
      const value = getInputValue(node, input);
      return typeof value === 'number' ? value : null;
    },
    stops: (input) => {
      const value = getInputValue(node, input);
      if (!isRamp(value)) return [];
      const { layout } = rampModes(node);
      const stops = orderedStops(value, layout);
      return stopPlaces(stops, layout).map((place, k) => ({
        place,
        holds: layout !== 'placed' || stops[k]?.segment === 'hold',
      }));
    },
  };
}
