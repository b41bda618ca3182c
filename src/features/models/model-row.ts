/** A model as the list of models shows it. */
export interface ModelRow {
  readonly id: string;
  readonly name: string;
  readonly projectId: string | null;
  readonly ownerName: string | null;
  readonly mayMend: boolean;
  readonly isArchived: boolean;
  readonly hasFormer: boolean;
}
