/** @jest-environment jsdom */
/** Files on their way: questions that are answered by keys, a board that is worked by keys, an upload that is told. */
import { act, fireEvent, screen, waitFor, within } from '@testing-library/react';
import { useState } from 'react';
import type { ArrivedFile } from '@/core/sitting/intake/arrived';
import { show } from '@/ui/testing/render';
import { LayBoard } from './LayBoard';
import { Questions, type Question } from './Questions';
import { SendingPanel } from './SendingPanel';

const file = (path: string): ArrivedFile => ({
  path,
  stored: { sha256: path.padEnd(64, '0'), bytes: 1, facts: { readable: false, reason: 'x' } },
});
const question = (path: string, options = ['ND4', 'ND8']): Question => ({
  file: file(path),
  doubt: 'Two filters fit.',
  facts: '1200 × 800',
  options: options.map((label) => ({ id: label.toLowerCase(), label, reasons: ['by its light', 'by its time'] })),
});

describe('questions', () => {
  const draw = (questions = [question('a.png'), question('b.png')], canUndo = false) => {
    const told = { chosen: jest.fn(), all: jest.fn(), undone: jest.fn() };
    return {
      told,
      ...show(
        <Questions
          questions={questions}
          response={{ kind: 'srgb' }}
          onChoose={told.chosen}
          onAll={told.all}
          onUndo={told.undone}
          canUndo={canUndo}
        />,
      ),
    };
  };
  const region = () => screen.getByRole('region', { name: 'Questions' });

  test('have the keyboard as soon as they are there; digits choose', async () => {
    const { user, told } = draw();
    expect(document.activeElement).toBe(region());
    await user.keyboard('2');
    expect(told.chosen).toHaveBeenCalledWith('a.png', 'nd8');
    await user.keyboard('9');
    expect(told.chosen).toHaveBeenCalledTimes(1);
  });

  test('arrows walk around; u takes back where there is something', async () => {
    const { user, told } = draw(undefined, true);
    expect(within(region()).getByText('a.png')).toBeTruthy();
    await user.keyboard('{ArrowDown}');
    expect(within(region()).getByText('b.png')).toBeTruthy();
    await user.keyboard('{ArrowDown}');
    expect(within(region()).getByText('a.png')).toBeTruthy();
    await user.keyboard('{ArrowUp}');
    expect(within(region()).getByText('b.png')).toBeTruthy();
    await user.keyboard('u');
    expect(told.undone).toHaveBeenCalledTimes(1);
  });

  test('who types keeps the keyboard when a question comes up; otherwise the question has it', async () => {
    const Typing = () => {
      const [text, setText] = useState('');
      return (
        <>
          <input aria-label="Kit" value={text} onChange={({ target }) => setText(target.value)} />
          <Questions
            questions={text.includes('4') ? [question('a.png')] : []}
            response={{ kind: 'srgb' }}
            {...{ onChoose: jest.fn(), onAll: jest.fn(), onUndo: jest.fn(), canUndo: false }}
          />
        </>
      );
    };
    const { user } = show(<Typing />);
    const field = screen.getByLabelText<HTMLInputElement>('Kit');
    await user.type(field, 'ND4 8');
    expect(field.value).toBe('ND4 8');
    expect(document.activeElement).toBe(field);
    await user.clear(field);
    await user.type(field, 'ND');
    field.blur();
    fireEvent.change(field, { target: { value: 'ND4' } });
    expect(document.activeElement).toBe(region());
  });

  test('by pointer: one, all, or another file', async () => {
    const { user, told } = draw();
    await user.click(within(region()).getByRole('button', { name: 'Ask about b.png' }));
    await user.click(within(region()).getByRole('button', { name: /ND4/ }));
    expect(told.chosen).toHaveBeenCalledWith('b.png', 'nd4');
    await user.click(screen.getByRole('button', { name: 'Take the likeliest for all' }));
    expect(told.all).toHaveBeenCalled();
  });

  test('one alone needs no list; none is nothing', () => {
    const { unmount } = draw([question('a.png')]);
    expect(screen.queryByRole('group', { name: 'All questions' })).toBeNull();
    unmount();
    draw([]);
    expect(screen.queryByRole('region', { name: 'Questions' })).toBeNull();
  });
});

describe('the board', () => {
  const rows = [
    { id: 'bare', label: 'bare', tiles: [{ path: 'a.png', node: 'picture a' }] },
    { id: 'nd4', label: 'ND4', missing: 'no file yet', tiles: [] },
  ];

  test('each file can be taken up by name; where nothing lies that is said', () => {
    show(<LayBoard groups={[{ id: 'chart', title: 'Chart', rows }]} onMove={jest.fn()} />);
    expect(screen.getByRole('button', { name: 'a.png' }).getAttribute('aria-roledescription')).toContain('carried');
    expect(within(screen.getByRole('group', { name: 'ND4, Chart' })).getByText('no file yet')).toBeTruthy();
  });

  test('taken up and put back by keys, read out', async () => {
    const moved = jest.fn();
    const { user } = show(<LayBoard groups={[{ id: 'chart', title: 'Chart', rows }]} onMove={moved} />);
    screen.getByRole('button', { name: 'a.png' }).focus();
    await user.keyboard(' ');
    await waitFor(() => expect(screen.getByText(/a.png is taken up\. Arrows carry it/)).toBeTruthy());
    await act(() => new Promise((done) => setTimeout(done, 50)));
    await user.keyboard('{Escape}');
    await waitFor(() => expect(screen.getByText('a.png stays where it was.')).toBeTruthy());
    expect(moved).not.toHaveBeenCalled();
  });
});

describe('an upload', () => {
  const progress = { sentBytes: 5e6, totalBytes: 20e6, rate: 1e6, paused: false, filesDone: 1, files: 4 };
  const draw = (more: Partial<typeof progress> | null = {}) => {
    const told = { pause: jest.fn(), on: jest.fn(), stop: jest.fn() };
    return {
      told,
      ...show(
        <SendingPanel
          what="4 files"
          progress={more === null ? null : { ...progress, ...more }}
          onPause={told.pause}
          onGoOn={told.on}
          onStop={told.stop}
        />,
      ),
    };
  };

  test('how far, how fast, how long', () => {
    draw();
    expect(screen.getByText('5.0 MB of 20.0 MB, 1 of 4 files done')).toBeTruthy();
    expect(screen.getByText('1.0 MB/s, 15 s left')).toBeTruthy();
    expect(screen.getByRole('progressbar', { name: '4 files' }).getAttribute('aria-valuenow')).toBe(String(5e6));
  });

  test('longer ones in minutes and hours, larger ones in gigabytes', () => {
    const { unmount } = draw({ totalBytes: 2e9, rate: 1e6 });
    expect(screen.getByText(/of 2.00 GB/)).toBeTruthy();
    expect(screen.getByText(/34 min left/)).toBeTruthy();
    unmount();
    draw({ totalBytes: 20e9, rate: 1e6 });
    expect(screen.getByText(/5 h 34 min left/)).toBeTruthy();
  });

  test('paused, gone on, stopped', async () => {
    const first = draw();
    await first.user.click(screen.getByRole('button', { name: 'Pause' }));
    await first.user.click(screen.getByRole('button', { name: 'Stop' }));
    expect([first.told.pause, first.told.stop].map((one) => one.mock.calls.length)).toEqual([1, 1]);
    first.unmount();
    const { user, told } = draw({ paused: true });
    expect(screen.getByText('Paused: 4 files')).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Go on' }));
    expect(told.on).toHaveBeenCalled();
  });

  test('before anything moved, and when all is sent but not read', () => {
    const { unmount } = draw(null);
    expect(screen.getByText('Taking in 4 files …')).toBeTruthy();
    unmount();
    draw({ sentBytes: 20e6 });
    expect(screen.getByText('Reading 4 files …')).toBeTruthy();
  });
});
