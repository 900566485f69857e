import { fireEvent, screen } from '@testing-library/react';
import { expect, it, vi } from 'vitest';
import { show } from '../test/show';
import { DateField, DateTimeField } from './DateField';

const box = () => screen.getByLabelText<HTMLInputElement>('First day');
function type(text: string) {
  fireEvent.change(box(), { target: { value: text } });
  fireEvent.blur(box());
}

it('shows a day in words and hands over what is typed', () => {
  const days = vi.fn();
  show(<DateField label="First day" value="2026-12-03" onChange={days} />);
  expect(box().value).toBe('3 Dec 2026');
  type('5 January 2027');
  expect(days).toHaveBeenCalledWith('2027-01-05');
  type('');
  expect(days).toHaveBeenLastCalledWith('');
});

it('keeps what it cannot read, says how to write it, and holds the form back', () => {
  const days = vi.fn();
  show(<DateField label="First day" value="2026-12-03" onChange={days} />);
  type('3/12/2026');
  expect(days).not.toHaveBeenCalled();
  expect(box().value).toBe('3/12/2026');
  expect(screen.getByRole('alert').textContent).toBe('“3/12/2026” is not a date. Write it as 3 Dec 2026.');
  expect(box().checkValidity()).toBe(false);
  fireEvent.keyDown(box(), { key: 'Escape' });
  expect(box().value).toBe('3 Dec 2026');
  expect(box().checkValidity()).toBe(true);
});

it('keeps to the first and the last day, and to a day where one is needed', () => {
  const days = vi.fn();
  show(<DateField required label="First day" value="2026-12-03" min="2026-12-01" max="2026-12-31" onChange={days} />);
  type('30 Nov 2026');
  expect(screen.getByRole('alert').textContent).toBe('The first day here is 1 Dec 2026.');
  type('1 Jan 2027');
  expect(screen.getByRole('alert').textContent).toBe('The last day here is 31 Dec 2026.');
  type('');
  expect(box().value).toBe('3 Dec 2026');
  expect(days).not.toHaveBeenCalled();
});

it('chooses from the month that is shown', () => {
  const days = vi.fn();
  show(<DateField label="First day" value="2026-12-03" max="2026-12-20" onChange={days} />);
  fireEvent.keyDown(box(), { key: 'ArrowDown' });
  expect(screen.getByText('December 2026')).toBeTruthy();
  expect(screen.getByRole<HTMLButtonElement>('button', { name: /December 21st, 2026/ }).disabled).toBe(true);
  fireEvent.click(screen.getByRole('button', { name: /December 18th, 2026/ }));
  expect(days).toHaveBeenCalledWith('2026-12-18');
});

it('takes a time of day beside the day', () => {
  const moments = vi.fn();
  show(<DateTimeField label="First day" value="2026-12-03T09:00" onChange={moments} />);
  const time = screen.getByLabelText<HTMLInputElement>('Time of First day');
  expect(time.value).toBe('09:00');
  fireEvent.change(time, { target: { value: '18.30' } });
  fireEvent.blur(time);
  expect(moments).toHaveBeenLastCalledWith('2026-12-03T18:30');
  type('4 Dec 2026');
  expect(moments).toHaveBeenLastCalledWith('2026-12-04T09:00');
  type('');
  expect(moments).toHaveBeenLastCalledWith('');
});
