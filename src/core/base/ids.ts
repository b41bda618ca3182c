/**
 * Names of things as types. An id of one kind cannot stand where another is meant; text that is not
 * yet known to be any may stand for each, so that literals and parsed JSON need no casts.
 */
interface Kind<K extends string> {
  readonly _kind?: K;
}
type Id<K extends string> = string & Kind<K>;

/** A node of one board. */
export type NodeId = Id<'node'>;
/** An input, an output or a dial: ports share one space of names at their node. */
export type PortId = Id<'port'>;
/** A strand of one board. */
export type StrandId = Id<'strand'>;
/** A group definition of one document. */
export type GroupId = Id<'group'>;
/** A stop of one ramp. */
export type StopId = Id<'stop'>;
/** A model of the studio. */
export type ModelId = Id<'model'>;
/** A material of the studio. */
export type MaterialId = Id<'material'>;
/** SHA-256 of an image's file, in hexadecimal. */
export type ImageHash = Id<'image'>;
/** A result of a network; made and parsed by `graph/result-key`. */
export type ResultKey = Id<'result'>;
/** What a program reads per point; made and parsed by `base/lane-name`. */
export type LaneName = Id<'lane'>;
