import type { NodeId } from '../base/ids';
import type { Law } from '../graph/document';
import type { Cure } from '../nodes/advice';

/** What the inspector may find in a group. */
export type NoteCode =
  | 'no-name'
  | 'no-description'
  | 'no-dials'
  | 'dial-help'
  | 'dial-ends'
  | 'dial-name'
  | 'dial-zero'
  | 'dial-dead'
  | 'dial-flat'
  | 'dial-steep'
  | 'dial-beyond'
  | 'pair-beyond'
  | 'naming'
  | 'dial-home'
  | 'dial-data'
  | 'dial-weak'
  | 'dial-part'
  | 'dial-pair'
  | 'open-output'
  | 'unread-input'
  | 'idle-input'
  | 'fixed-normal'
  | 'leftover'
  | 'test'
  | 'constant'
  | 'off'
  | 'unwired'
  | 'unplugged'
  | 'proof'
  | 'variant'
  | 'image'
  | 'units'
  | 'camera'
  | 'lights'
  | 'influence';

/** One change that a note offers. */
export type NoteCure =
  /** What advice on a card inside offers. */
  | {
      readonly act: 'advice';
      readonly title: string;
      readonly node: NodeId;
      readonly advice: Cure;
    }
  | {
      readonly act: 'remove-port';
      readonly title: string;
      readonly side: 'inputs' | 'outputs';
      readonly port: string;
    }
  | {
      readonly act: 'law';
      readonly title: string;
      readonly dial: string;
      readonly node: NodeId;
      readonly input: string;
      readonly law: Law;
    }
  | { readonly act: 'switch-on'; readonly title: string; readonly node: NodeId }
  | {
      readonly act: 'slider';
      readonly title: string;
      readonly dial: string;
      readonly soft: readonly [number, number];
    }
  | { readonly act: 'declare'; readonly title: string; readonly port: string };

/** A note: what was found, where, why it matters, and what mends it. */
export interface GroupNote {
  readonly code: NoteCode;
  /** `fault`: whoever uses the group is misled; `fact`: worth knowing. */
  readonly tone: 'fault' | 'fact';
  readonly message: string;
  readonly node?: NodeId;
  readonly dial?: string;
  readonly port?: string;
  readonly input?: string;
  readonly cure?: NoteCure;
}
