/** Every code a diagnostic may carry. Codes are never reused. */
export const DIAGNOSTIC_CODES = [
  'document.not-json',
  'document.shape',
  'document.version',
  'node.unknown-type',
  'node.unknown-version',
  'node.old-version',
  'node.duplicate-id',
  'node.unknown-input',
  'value.wrong-type',
  'value.out-of-range',
  'option.unknown',
  'ramp.duplicate-stop',
  'ramp.out-of-range',
  'curve.unordered',
  'strand.missing-node',
  'strand.missing-port',
  'strand.kind',
  'strand.twice',
  'strand.duplicate-id',
  'strand.quantity',
  'network.cycle',
  'group.missing',
  'group.contains-itself',
  'group.too-deep',
  'group.unwired',
  'network.too-large',
  'formula.wrong',
  'image.unavailable',
  'image.mixed-reading',
  'drive.missing-target',
  'drive.law',
  'drive.kind',
  'compile.failed',
  'node.failed',
  'network.no-surface',
  'group.open-output',
  'group.unread-input',
  'group.idle-dial',
] as const;

/** A code of DIAGNOSTIC_CODES; codes are never reused. */
export type DiagnosticCode = (typeof DIAGNOSTIC_CODES)[number];
/** `error` keeps a document from being compiled; the others do not. */
export type Severity = 'error' | 'warning' | 'note';

/** A finding about a user's document: what is wrong, where, and what to do. */
export interface Diagnostic {
  readonly code: DiagnosticCode;
  readonly severity: Severity;
  /** JSON Pointer (RFC 6901) into the document, '' for the whole. */
  readonly pointer: string;
  readonly message: string;
  readonly nodeId?: string;
  /** Of a formula: the character it is about, counted from 0. */
  readonly character?: number;
}

/** Whether any finding keeps the document from being compiled. */
export function hasErrors(diagnostics: readonly Diagnostic[]): boolean {
  return diagnostics.some((finding) => finding.severity === 'error');
}

/** What an AppError carries besides its code, its message and what to do. */
export interface AppErrorOptions {
  readonly cause?: unknown;
  /** Of the answer where it ends a request; 400 when left out. */
  readonly status?: number;
  /** What was kept, or that nothing was changed, in a sentence. */
  readonly kept?: string;
  /** Data for whoever handles it. */
  readonly details?: unknown;
  /** What is wrong with a document, where that is the reason. */
  readonly findings?: readonly Diagnostic[];
}

/**
 * The outside world failed, or a request cannot be served; carries what was kept and what a person
 * can do.
 */
export class AppError extends Error {
  readonly status: number;
  readonly kept: string;
  readonly details: unknown;
  readonly findings: readonly Diagnostic[];

  constructor(
    readonly code: string,
    message: string,
    readonly action: string = '',
    options: AppErrorOptions = {},
  ) {
    super(message, { cause: options.cause });
    this.name = 'AppError';
    this.status = options.status ?? 400;
    this.kept = options.kept ?? '';
    this.details = options.details;
    this.findings = options.findings ?? [];
  }
}

/** The message of anything thrown. */
export function errorMessage(error: unknown): string {
  return error instanceof Error ? error.message : String(error);
}
