import { fireEvent, screen, waitFor } from '@testing-library/react';
import { useState } from 'react';
import { expect, it } from 'vitest';
import { show } from '../test/show';
import { Inspector } from './Inspector';

function Rows() {
  const [open, setOpen] = useState('');
  return (
    <>
      {['One', 'Two'].map((row) => (
        <button key={row} onClick={() => setOpen(row)}>
          {row}
        </button>
      ))}
      {open && (
        <Inspector key={open} title={`About ${open}`} onClose={() => setOpen('')}>
          <input aria-label="Name" />
        </Inspector>
      )}
    </>
  );
}

it('gives the focus back to where it was opened when it closes', async () => {
  show(<Rows />);
  const one = screen.getByText('One');
  one.focus();
  fireEvent.click(one);
  screen.getByLabelText('Name').focus();
  fireEvent.click(screen.getByLabelText('Close'));
  await waitFor(() => expect(document.activeElement).toBe(one));
});

it('leaves the focus with another row that was chosen', async () => {
  show(<Rows />);
  screen.getByText('One').focus();
  fireEvent.click(screen.getByText('One'));
  const two = screen.getByText('Two');
  two.focus();
  fireEvent.click(two);
  await screen.findByText('About Two');
  await new Promise((done) => setTimeout(done, 20));
  expect(document.activeElement).toBe(two);
});
