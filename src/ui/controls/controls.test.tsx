/** @jest-environment jsdom */
/** Our controls as a person meets them: by name, by pointer and by keyboard. */
import { act, screen, waitFor, within } from '@testing-library/react';
import { useState } from 'react';
import { Button } from '../Button';
import { choose, show } from '../testing/render';
import { Checkbox } from './Checkbox';
import { Confirm, Dialog } from './Dialog';
import { Disclosure } from './Disclosure';
import {
  Labelled,
  Line,
  MaybeNumberField,
  NumberField,
  NumberInput,
  NumbersField,
  ShutterField,
  TextArea,
  TextInput,
} from './fields';
import { FilePicker } from './FilePicker';
import { Popover } from './Popover';
import { Progress } from './Progress';
import { PaperRoom } from './room';
import { Select } from './Select';
import { Slider } from './Slider';
import { Tabs } from './Tabs';
import { useTell } from './Toasts';
import { Choice, Toggle } from './Toggle';
import { IconButton } from './Tooltip';

describe('a box to tick', () => {
  test('is named by its words, ticked by pointer on either and by the space bar', async () => {
    const seen: boolean[] = [];
    function Ticked() {
      const [on, setOn] = useState(false);
      return (
        <Checkbox
          checked={on}
          onChange={(now) => {
            seen.push(now);
            setOn(now);
          }}
        >
          even wall
        </Checkbox>
      );
    }
    const { user } = show(<Ticked />);
    const box = screen.getByRole('checkbox', { name: 'even wall' });
    expect(box.getAttribute('aria-checked')).toBe('false');
    await user.click(box);
    await user.click(screen.getByText('even wall'));
    box.focus();
    await user.keyboard(' ');
    expect(seen).toEqual([true, false, true]);
    expect(box.getAttribute('aria-checked')).toBe('true');
  });

  test('says nothing while it is disabled', async () => {
    const changed = jest.fn();
    const { user } = show(
      <Checkbox checked disabled onChange={changed}>
        last session
      </Checkbox>,
    );
    await user.click(screen.getByRole('checkbox'));
    expect(changed).not.toHaveBeenCalled();
  });
});

describe('a list', () => {
  const OPTIONS = [
    ['', 'not said'],
    ['bought', 'bought'],
    ['lent', 'lent'],
  ] as const;

  test('shows what is chosen in words, and an empty value like any other', async () => {
    const chosen = jest.fn();
    const { user } = show(
      <Labelled words="How obtained">
        <Select value="bought" options={OPTIONS} onChange={chosen} />
      </Labelled>,
    );
    expect(screen.getByRole('combobox').textContent).toBe('bought');
    await choose(user, /How obtained/, 'not said');
    expect(chosen).toHaveBeenCalledWith('');
  });

  test('by keyboard: opened, walked, chosen; Escape leaves it as it was', async () => {
    const chosen = jest.fn();
    const { user } = show(<Select label="How" value="" options={OPTIONS} onChange={chosen} />);
    screen.getByRole('combobox', { name: 'How' }).focus();
    await user.keyboard('{Enter}');
    expect(await screen.findByRole('listbox')).toBeTruthy();
    await user.keyboard('{Escape}');
    await waitFor(() => expect(screen.queryByRole('listbox')).toBeNull());
    expect(chosen).not.toHaveBeenCalled();
  });

  test('says what to do while nothing is chosen, and that it is wrong', () => {
    show(<Select label="Filter" value={null} placeholder="choose …" invalid options={OPTIONS} onChange={jest.fn()} />);
    const list = screen.getByRole('combobox', { name: 'Filter' });
    expect(list.textContent).toBe('choose …');
    expect(list.getAttribute('aria-invalid')).toBe('true');
  });

  test('opens in the room that it stands in', async () => {
    const { user } = show(
      <PaperRoom>
        <Select label="Rig" value="" options={OPTIONS} onChange={jest.fn()} />
      </PaperRoom>,
    );
    screen.getByRole('combobox').focus();
    await user.keyboard('{Enter}');
    expect((await screen.findByRole('listbox')).closest('[data-room]')?.getAttribute('data-room')).toBe('paper');
  });
});

test('a slider goes by steps, to its ends, and is read out', async () => {
  const seen: number[] = [];
  function Slid() {
    const [value, setValue] = useState(2);
    return (
      <Slider
        label="Weight"
        min={0}
        max={10}
        step={0.5}
        value={value}
        valueText={`${value} of ten`}
        onChange={(next) => {
          seen.push(next);
          setValue(next);
        }}
      />
    );
  }
  const { user } = show(<Slid />);
  const thumb = screen.getByRole('slider', { name: 'Weight' });
  thumb.focus();
  await user.keyboard('{ArrowRight}{ArrowLeft}{ArrowLeft}{End}{Home}');
  expect(seen).toEqual([2.5, 2, 1.5, 10, 0]);
  expect(thumb.getAttribute('aria-valuetext')).toBe('0 of ten');
});

describe('toggles', () => {
  test('one that is on or off tells it, and the key that does the same is not part of its name', async () => {
    const changed = jest.fn();
    const { user } = show(
      <Toggle on keys="c" onChange={changed}>
        Clipping
      </Toggle>,
    );
    const button = screen.getByRole('button', { name: 'Clipping' });
    expect(button.getAttribute('aria-pressed')).toBe('true');
    await user.click(button);
    expect(changed).toHaveBeenCalledWith(false);
  });

  test('of a few one is chosen: arrows walk, the chosen one stays when pressed again', async () => {
    const chosen = jest.fn();
    const { user } = show(
      <Choice
        label="Light"
        value="level"
        entries={[
          { value: 'shot', words: 'As shot' },
          { value: 'level', words: 'Levelled', keys: 'l' },
        ]}
        onChange={chosen}
      />,
    );
    const level = screen.getByRole('radio', { name: 'Levelled' });
    expect(level.getAttribute('aria-checked')).toBe('true');
    await user.click(level);
    expect(chosen).not.toHaveBeenCalled();
    level.focus();
    await user.keyboard('{ArrowLeft}');
    expect(document.activeElement).toBe(screen.getByRole('radio', { name: 'As shot' }));
    await user.keyboard('{Enter}');
    expect(chosen).toHaveBeenCalledWith('shot');
  });
});

test('tabs: the chosen one’s view, arrows walk; a single one needs no names', async () => {
  function Tabbed({ names }: { names: string[] }) {
    const [value, setValue] = useState(names[0]);
    return (
      <Tabs label="Scenes" value={value} tabs={names.map((one) => [one, one] as const)} onChange={setValue}>
        view of {value}
      </Tabs>
    );
  }
  const { user, unmount } = show(<Tabbed names={['chart', 'flat']} />);
  expect(screen.getByRole('tabpanel').textContent).toBe('view of chart');
  screen.getByRole('tab', { name: 'chart' }).focus();
  await user.keyboard('{ArrowRight}');
  expect(screen.getByRole('tabpanel').textContent).toBe('view of flat');
  expect(screen.getByRole('tab', { name: 'flat' }).getAttribute('aria-selected')).toBe('true');
  unmount();
  show(<Tabbed names={['chart']} />);
  expect(screen.queryByRole('tab')).toBeNull();
});

test('more to read opens and closes', async () => {
  const { user } = show(<Disclosure words="3 more like this">the others</Disclosure>);
  expect(screen.queryByText('the others')).toBeNull();
  await user.click(screen.getByRole('button', { name: '3 more like this' }));
  expect(screen.getByText('the others')).toBeTruthy();
  await user.click(screen.getByRole('button', { name: '3 more like this' }));
  expect(screen.queryByText('the others')).toBeNull();
});

test('a sheet beside its button', async () => {
  const { user } = show(
    <Popover trigger="Choose tiles" label="Tiles">
      any six
    </Popover>,
  );
  await user.click(screen.getByRole('button', { name: 'Choose tiles' }));
  expect(within(screen.getByRole('dialog', { name: 'Tiles' })).getByText('any six')).toBeTruthy();
  await user.keyboard('{Escape}');
  expect(screen.queryByRole('dialog')).toBeNull();
});

describe('dialogs', () => {
  test('one to read closes by its button and by Escape', async () => {
    const changed = jest.fn();
    const { user } = show(
      <Dialog open onOpenChange={changed} title="Keys">
        all of them
      </Dialog>,
    );
    expect(screen.getByRole('dialog', { name: 'Keys' })).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Close' }));
    await user.keyboard('{Escape}');
    expect(changed).toHaveBeenLastCalledWith(false);
  });

  test('one that asks does it only on yes', async () => {
    const done = jest.fn();
    const { user } = show(
      <Confirm trigger={<button type="button">Revoke</button>} title="Revoke it?" action="Revoke it" onConfirm={done}>
        It is not answered any more.
      </Confirm>,
    );
    await user.click(screen.getByRole('button', { name: 'Revoke' }));
    expect(screen.getByRole('alertdialog', { name: 'Revoke it?' })).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Leave it' }));
    expect(done).not.toHaveBeenCalled();
    await user.click(screen.getByRole('button', { name: 'Revoke' }));
    await user.click(screen.getByRole('button', { name: 'Revoke it' }));
    expect(done).toHaveBeenCalledTimes(1);
  });
});

test('a notice in the corner offers the way back, and goes when it was taken', async () => {
  const back = jest.fn();
  function Teller() {
    const tell = useTell();
    return (
      <Button
        onClick={() => tell({ words: '“Foundry Set” is put away.', action: { words: 'Bring it back', run: back } })}
      >
        Put away
      </Button>
    );
  }
  const { user } = show(<Teller />);
  await user.click(screen.getByRole('button', { name: 'Put away' }));
  await user.click(await screen.findByRole('button', { name: 'Bring it back' }));
  expect(back).toHaveBeenCalledTimes(1);
  await waitFor(() => expect(screen.queryByRole('button', { name: 'Bring it back' })).toBeNull());
});

test('a drawing alone has a name', async () => {
  const pressed = jest.fn();
  const { user } = show(
    <IconButton label="Remove ND8, row 2" words="Remove" onClick={pressed}>
      ×
    </IconButton>,
  );
  await user.click(screen.getByRole('button', { name: 'Remove ND8, row 2' }));
  expect(pressed).toHaveBeenCalled();
});

test.each([
  [0, 0, null],
  [3, 12, '3'],
  [15, 12, '12'],
])('progress of %d of %d', (done, total, now) => {
  show(<Progress label="Pictures measured" done={done} total={total} />);
  const bar = screen.getByRole('progressbar', { name: 'Pictures measured' });
  expect(bar.getAttribute('aria-valuenow')).toBe(now);
});

test('files are told once each, and the same can be chosen again', async () => {
  const chosen = jest.fn();
  const picking = { current: null as { open: () => void } | null };
  const { user } = show(<FilePicker picking={picking} label="Files" multiple onFiles={chosen} />);
  const file = new File(['x'], 'a.png');
  const input = screen.getByLabelText('Files');
  await user.upload(input, file);
  await user.upload(input, file);
  expect(chosen.mock.calls).toEqual([[[file]], [[file]]]);
  const clicked = jest.spyOn(input, 'click');
  act(() => picking.current!.open());
  expect(clicked).toHaveBeenCalled();
});

describe('fields', () => {
  test('a number is reported as soon as it can be read; a comma is a point; what can’t be read is marked and kept', async () => {
    const changed = jest.fn();
    const { user } = show(<NumberField label="Base ISO" value={100} onChange={changed} />);
    const field = screen.getByLabelText<HTMLInputElement>('Base ISO');
    await user.clear(field);
    expect(field.getAttribute('aria-invalid')).toBe('true');
    await user.type(field, '2,5');
    expect(changed).toHaveBeenLastCalledWith(2.5);
    await user.clear(field);
    await user.type(field, '-3');
    expect(field.value).toBe('-3');
    expect(field.getAttribute('aria-invalid')).toBe('true');
    expect(changed).toHaveBeenLastCalledWith(2.5);
  });

  test('one that may be empty', async () => {
    const changed = jest.fn();
    const { user } = show(<MaybeNumberField label="Narrowest" value={16} onChange={changed} />);
    await user.clear(screen.getByLabelText('Narrowest'));
    expect(changed).toHaveBeenLastCalledWith(undefined);
  });

  test.each([
    ['1/50', 1 / 50],
    ['2', 2],
    ['0.5', 0.5],
  ])('a shutter: %s', async (text, seconds) => {
    const changed = jest.fn();
    const { user } = show(<ShutterField label="Slowest" value={1} onChange={changed} />);
    await user.clear(screen.getByLabelText('Slowest'));
    await user.type(screen.getByLabelText('Slowest'), text);
    expect(changed.mock.lastCall![0]).toBeCloseTo(seconds, 9);
  });

  test('numbers in a row', async () => {
    const changed = jest.fn();
    const { user } = show(<NumbersField label="Frame rates" value={[24]} onChange={changed} />);
    await user.type(screen.getByLabelText('Frame rates'), ', 25; 50');
    expect(changed).toHaveBeenLastCalledWith([24, 25, 50]);
    await user.type(screen.getByLabelText('Frame rates'), ' often');
    expect(screen.getByLabelText('Frame rates').getAttribute('aria-invalid')).toBe('true');
    expect(changed).toHaveBeenLastCalledWith([24, 25, 50]);
  });

  test('a number that the browser steps is nothing while it is empty', async () => {
    const changed = jest.fn();
    const { user } = show(<NumberInput label="Weight" value={4} onChange={changed} max={10} />);
    await user.clear(screen.getByRole('spinbutton', { name: 'Weight' }));
    expect(changed).toHaveBeenLastCalledWith(NaN);
  });

  test('lines and texts are named by what stands beside them', () => {
    show(
      <>
        <Line words="Bare after every">
          <TextInput defaultValue="3" />
        </Line>
        <Labelled words="Notes">
          <TextArea defaultValue="scratched" />
        </Labelled>
      </>,
    );
    expect(screen.getByLabelText<HTMLInputElement>('Bare after every').value).toBe('3');
    expect(screen.getByLabelText<HTMLTextAreaElement>('Notes').value).toBe('scratched');
  });
});
