import { fireEvent, screen } from '@testing-library/react';
import { useState } from 'react';
import { expect, it, vi } from 'vitest';
import { choose, show } from '../test/show';
import { FormField } from './FormField';
import { Select } from './Select';

const options = [
  ['', 'No grouping'],
  ['source', 'Source'],
  ['medium', 'Medium', true],
] as const;

function Held({ onChange }: { onChange: (value: string) => void }) {
  const [value, setValue] = useState('');
  return (
    <Select
      label="Group by"
      value={value}
      options={options}
      onChange={(next) => {
        setValue(next);
        onChange(next);
      }}
    />
  );
}

it('says what is chosen, and hands over the next choice, the empty one too', async () => {
  const chosen = vi.fn();
  show(<Held onChange={chosen} />);
  expect(screen.getByRole('combobox', { name: 'Group by' }).textContent).toBe('No grouping');
  await choose('Group by', 'Source');
  expect(screen.getByRole('combobox', { name: 'Group by' }).textContent).toBe('Source');
  await choose('Group by', 'No grouping');
  expect(chosen.mock.calls).toEqual([['source'], ['']]);
});

it('refuses what cannot be chosen now', () => {
  const chosen = vi.fn();
  show(<Held onChange={chosen} />);
  fireEvent.click(screen.getByRole('combobox'));
  fireEvent.click(screen.getByRole('option', { name: 'Medium' }));
  expect(chosen).not.toHaveBeenCalled();
});

it('opens with the arrows and chooses by the first letters while it is shut', () => {
  const chosen = vi.fn();
  show(<Held onChange={chosen} />);
  const box = screen.getByRole('combobox');
  fireEvent.focus(box);
  fireEvent.keyDown(box, { key: 's' });
  expect(chosen).toHaveBeenCalledWith('source');
  fireEvent.keyDown(box, { key: 'ArrowDown' });
  expect(screen.getAllByRole('option')).toHaveLength(3);
});

it('draws no options until somebody is there', () => {
  show(<Held onChange={() => {}} />);
  expect(document.querySelectorAll('[role=option]')).toHaveLength(0);
});

it('stands under its label, and shows a value that is no longer among the options', () => {
  show(
    <FormField label="Channel">
      <Select value="Old one" options={options} onChange={() => {}} />
    </FormField>,
  );
  expect(screen.getByLabelText(/Channel/).textContent).toBe('Old one');
});
