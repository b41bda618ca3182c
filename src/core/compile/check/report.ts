import type { Diagnostic, DiagnosticCode, Severity } from '../../base/diagnostic';
import { pointer } from '../../graph/pointer';

/** A place in a document, as the parts of a JSON Pointer. */
export type DocumentPath = readonly (string | number)[];

/** How many findings one check reports; a document with more is broken in some larger way. */
export const MOST_FINDINGS = 200;

interface FindingDetails {
  readonly node?: string;
  /** An error where left out. */
  readonly severity?: Severity;
  /** Of a formula: counted from 0. */
  readonly character?: number;
}

/** Collects what a check finds. */
export class CheckReport {
  readonly findings: Diagnostic[] = [];
  private readonly reported = new Set<string>();

  add(
    code: DiagnosticCode,
    at: DocumentPath,
    message: string,
    { node, severity = 'error', character }: FindingDetails = {},
  ): void {
    if (this.findings.length >= MOST_FINDINGS) return;
    // What is wrong inside a group is found once for each place where the group stands.
    const key = `${code} ${pointer(at)} ${message}`;
    if (this.reported.has(key)) return;
    this.reported.add(key);
    this.findings.push({
      code,
      severity,
      pointer: pointer(at),
      message,
      ...(node === undefined ? {} : { nodeId: node }),
      ...(character === undefined ? {} : { character }),
    });
  }
}
