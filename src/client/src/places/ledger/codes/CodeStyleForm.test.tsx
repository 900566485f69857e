import { fireEvent, screen, waitFor } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { choose, show } from '../../../test/show';
import { CodeStyleForm } from './CodeStyleForm';

const logos = { 'GET /api/v1/code-logos': { data: [{ id: 'g1', name: 'leaf.svg' }] } };

describe('how a code looks', () => {
  it('is chosen by size, colours and caption', async () => {
    const onChange = vi.fn();
    show(<CodeStyleForm look={{ mm: 30, dpi: 300 }} onChange={onChange} />, logos);
    fireEvent.change(screen.getByLabelText('Printed size, mm'), { target: { value: '45' } });
    fireEvent.change(screen.getByLabelText('Resolution, dpi'), { target: { value: '' } });
    fireEvent.change(screen.getByLabelText('Foreground'), { target: { value: '#224422' } });
    fireEvent.change(screen.getByLabelText('Caption under the code'), { target: { value: 'Gate' } });
    await choose('Error correction', /^Q/);
    expect(onChange.mock.calls.map((c) => c[0] as object)).toEqual([
      { mm: 45 },
      { dpi: null },
      { dark: '#224422' },
      { caption: 'Gate' },
      { correction: 'Q' },
    ]);
  });

  it('has no size where the label gives it', () => {
    show(<CodeStyleForm look={{}} onChange={vi.fn()} withoutSize fillIns="@{title}" />, logos);
    expect(screen.queryByLabelText('Printed size, mm')).toBeNull();
    expect(screen.getByLabelText('Caption; @{title} are filled in')).toBeTruthy();
  });

  it('offers capitals only where they make the code smaller, or are taken already', () => {
    show(<CodeStyleForm look={{}} onChange={vi.fn()} facts={{ compactSaves: false } as never} />, logos);
    expect(screen.queryByLabelText(/Address in capitals/)).toBeNull();
    show(<CodeStyleForm look={{ compact: true }} onChange={vi.fn()} facts={{ compactSaves: false } as never} />, logos);
    expect(screen.getByLabelText<HTMLInputElement>(/Address in capitals/).checked).toBe(true);
  });

  it('takes a logo of the workspace, or a new one from a file', async () => {
    const onChange = vi.fn();
    const sent = show(<CodeStyleForm look={{}} onChange={onChange} />, {
      ...logos,
      'POST /api/v1/code-logos': { data: { id: 'g2', name: 'gate.png' } },
    });
    await choose('Logo in the middle', 'leaf.svg');
    expect(onChange).toHaveBeenCalledWith({ logo: 'g1' });
    fireEvent.change(screen.getByLabelText('Logo file'), { target: { files: [new File(['x'], 'gate.png')] } });
    await waitFor(() => expect(onChange).toHaveBeenCalledWith({ logo: 'g2' }));
    expect((sent[0]?.body as FormData).get('file')).toBeInstanceOf(File);
  });

  it('says why a file is no logo', async () => {
    show(<CodeStyleForm look={{}} onChange={vi.fn()} />, {
      ...logos,
      'POST /api/v1/code-logos': { refused: 'This is no PNG, JPEG or SVG.' },
    });
    fireEvent.change(screen.getByLabelText('Logo file'), { target: { files: [new File(['x'], 'gate.gif')] } });
    expect((await screen.findByRole('alert')).textContent).toBe('This is no PNG, JPEG or SVG.');
  });

  it('sizes a logo by its share of the code', () => {
    const onChange = vi.fn();
    show(<CodeStyleForm look={{ logo: 'g1', logoShare: 0.25 }} onChange={onChange} />, logos);
    expect(screen.getByText('25 %')).toBeTruthy();
    fireEvent.change(screen.getByRole('slider'), { target: { value: '30' } });
    expect(onChange).toHaveBeenCalledWith({ logoShare: 0.3 });
  });
});
