import { createEvent, fireEvent, screen } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { show } from '../../test/show';
import { ChipInput } from './ChipInput';

function input(values: string[] = [], onPasted?: (text: string) => boolean) {
  const onChange = vi.fn();
  show(<ChipInput label="Contents" placeholder="" values={values} onChange={onChange} onPasted={onPasted} />);
  const box = screen.getByLabelText<HTMLInputElement>('Contents');
  const paste = (text: string) => {
    const event = createEvent.paste(box, { clipboardData: { getData: () => text } });
    fireEvent(box, event);
    return event.defaultPrevented;
  };
  return { onChange, box, paste };
}

describe('several short texts in one line', () => {
  it('are added by Enter, trimmed, and never twice', () => {
    const { onChange, box } = input(['fern']);
    fireEvent.change(box, { target: { value: ' moss ' } });
    fireEvent.keyDown(box, { key: 'Enter' });
    expect(onChange).toHaveBeenCalledWith(['fern', 'moss']);
    expect(box.value).toBe('');
    onChange.mockClear();
    fireEvent.change(box, { target: { value: 'fern' } });
    fireEvent.keyDown(box, { key: 'Enter' });
    expect(onChange).not.toHaveBeenCalled();
  });

  it('are added when the box is left, for nothing typed is lost', () => {
    const { onChange, box } = input();
    fireEvent.change(box, { target: { value: 'reed' } });
    fireEvent.blur(box);
    expect(onChange).toHaveBeenCalledWith(['reed']);
  });

  it('are taken out by Backspace in an empty box, or one by one', () => {
    const { onChange, box } = input(['fern', 'moss']);
    fireEvent.keyDown(box, { key: 'Backspace' });
    expect(onChange).toHaveBeenCalledWith(['fern']);
    fireEvent.click(screen.getByRole('button', { name: 'Remove fern' }));
    expect(onChange).toHaveBeenCalledWith(['moss']);
  });

  it('come one to a line from a column that is pasted', () => {
    const { onChange, paste } = input(['fern']);
    expect(paste('fern\r\nmoss\r\n\r\nreed\r\n')).toBe(true);
    expect(onChange).toHaveBeenCalledWith(['fern', 'moss', 'reed']);
  });

  it('leave a single pasted text to the browser, and another reader goes first', () => {
    expect(input().paste('moss')).toBe(false);
  });

  it('may be read by somebody else when pasted', () => {
    const { onChange, paste } = input([], () => true);
    expect(paste('a\nb')).toBe(true);
    expect(onChange).not.toHaveBeenCalled();
  });
});
