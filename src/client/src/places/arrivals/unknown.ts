import type { Warning } from '../../parts/board/Board';

/** The warning for a value that neither the Plan nor the word list of its field knows. */
export const unknownValue = (field: string, value: string): Warning =>
  field === 'campaign'
    ? {
        says: 'No campaign of the Plan has this value.',
        to: `/plan?${new URLSearchParams({ new: value }).toString()}`,
        does: 'Add it to the Plan',
      }
    : {
        says: 'The field’s word list does not have this value.',
        to: `/conventions?${new URLSearchParams({ at: field.replace(/^field\./, ''), try: value }).toString()}`,
        does: 'Open the word list',
      };
