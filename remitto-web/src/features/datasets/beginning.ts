import type { Column, Dataset, DatasetDefinition, Expectation } from '../../api/types';

/** What a dataset page edits. */
export interface DatasetEdit {
  name: string;
  description: string;
  sourceId: number;
  query: DatasetDefinition['query'];
  columns: Column[];
  /** Absent in drafts from before there were any. */
  expectations?: Expectation[];
}

/** What editing begins with: what is saved, or what a link to a new dataset carries. */
export function beginning(dataset: Dataset | undefined, begun: URLSearchParams): DatasetEdit {
  return dataset
    ? {
        name: dataset.name,
        description: dataset.description,
        sourceId: dataset.sourceId,
        query: dataset.definition.query,
        columns: dataset.definition.columns,
        expectations: dataset.definition.expectations,
      }
    : {
        name: begun.get('name') ?? '',
        description: '',
        sourceId: Number(begun.get('source') ?? 0),
        query: { kind: 'sql', text: begun.get('sql') ?? 'select\nfrom ' },
        columns: [],
        expectations: [],
      };
}

/** What the draft of a new dataset is of; one that a link began is kept apart from others. */
export function subject(begun: URLSearchParams): string {
  const carried = begun.toString().replace(/[^\w-]+/g, '.');
  return `new${carried && `.${carried}`}`.slice(0, 200);
}
