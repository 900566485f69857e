import { cleanup, render, screen } from '@testing-library/react';
import { afterEach, describe, expect, it } from 'vitest';
import { DifferenceList } from './DifferenceList';

afterEach(cleanup);

describe('differences', () => {
  it('say what, how it was and how it is', () => {
    render(
      <DifferenceList
        changes={[
          { kind: 'changed', what: 'Field utm_source', property: 'case', before: 'Lower', after: 'AsTyped' },
          { kind: 'removed', what: 'Channel Film', property: '', before: 'paid', after: '' },
        ]}
      />,
    );
    const [changed, removed] = screen.getAllByRole('listitem');
    expect(changed!.textContent).toBe('Field utm_sourcechangedcase: Lower → AsTyped');
    expect(removed!.textContent).toBe('Channel Filmgonepaid');
  });

  it('say when there are none', () => {
    render(<DifferenceList changes={[]} />);
    expect(screen.queryByText('No differences.')).not.toBeNull();
  });
});
