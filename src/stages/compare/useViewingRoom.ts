import { useCallback, useMemo, useState, type RefObject } from 'react';
import { resolveColorSpace } from '@/core/formulas/color/spaces';
import type { ComparedSession } from '@/server/compare';
import { useSelectedFilter } from '@/ui/selection';
import type { SessionView } from '@/ui/sessionView';
import type { BlindState } from './blindState';
import { compareLight, type Probed } from './probe';
import type { Shown } from './shown';
import { bareOf, FIRST_CHOICE, MOST_TILES_SHOWN, roomOf, type Choice } from './state';
import type { Pointed } from './useGestures';
import { useLaid } from './useLaid';
import { usePainter } from './usePainter';
import { usePlayback } from './usePlayback';
import { useScreenGamut } from './useScreenGamut';
import type { Frame } from './viewport';
import { captionOf, captionsOf } from './words';

/** Layouts that show any number of pictures. */
const MANY = new Set<string>(['tiles', 'side', 'stack']);
/** Half the side of the square that the probe reads, screen pixels. */
const PROBE_HALF = 4;

/** Which pictures are shown, how, and the room that follows from it, painted on the canvas. */
export function useViewingRoom(
  view: SessionView,
  compared: ComparedSession,
  canvas: RefObject<HTMLCanvasElement | null>,
  behind: RefObject<HTMLCanvasElement | null>,
) {
  const [chosen, setChoice] = useState<Choice>(FIRST_CHOICE);
  const screenGamut = useScreenGamut();
  const choice = useMemo(() => ({ ...chosen, gamut: chosen.gamut ?? screenGamut }), [chosen, screenGamut]);
  const change = useCallback((part: Partial<Choice>) => setChoice((now) => ({ ...now, ...part })), []);
  const [size, setSize] = useState<Frame>({ width: 0, height: 0 });
  const [blind, setBlind] = useState<BlindState | null>(null);
  const pictures = useShown(view, compared, choice.layout, blind);
  const { shown } = pictures;
  const layout = blind && choice.layout === 'wipe' ? 'tiles' : choice.layout;
  const player = usePlayback(shown);
  const { playback } = player;
  const laid = useLaid(shown, playback);
  const ratio = typeof window === 'undefined' ? 1 : window.devicePixelRatio;
  const [loupe, setLoupe] = useState<{ x: number; y: number } | null>(null);
  const room = useMemo(
    () =>
      roomOf(
        { ...choice, layout, bare: choice.bare && !blind },
        shown,
        laid,
        size,
        ratio,
        choice.loupe ? loupe : null,
        playback,
      ),
    [choice, layout, shown, laid, size, ratio, loupe, blind, playback],
  );
  const point = useCallback(
    (at: Pointed | null) => {
      if (!choice.loupe || !room || !at) return setLoupe(null);
      const cell = room.cells[at.cell];
      const from = cell.view ?? room.view;
      setLoupe({
        x: from.x + (at.x - cell.width / 2) / from.scale,
        y: from.y + (at.y - cell.height / 2) / from.scale,
      });
    },
    [choice.loupe, room],
  );
  const painting = usePainter(canvas, behind, room);
  const hidden = blind !== null && !blind.revealed;
  const names = shown.map((one, i) => (hidden ? String.fromCharCode(65 + i) : one.picture.name));
  const captions = cellCaptions();
  const probe = useProbe(view, painting.painter, room, hidden);

  function cellCaptions(): readonly string[] {
    if (choice.bare && !blind && shown.length > 0)
      return [captionOf(shown[0], choice.level, shown[0].picture.name, playback)];
    const each = shown.map((one, i) => {
      const name = one.session.id === compared.id ? names[i] : `${names[i]} · ${one.session.title}`;
      return hidden ? names[i] : captionOf(one, choice.level, name, playback);
    });
    return shown.length > 1 ? captionsOf(layout, each) : each;
  }

  /** What keeps a picture from being shown or laid, a sentence each. */
  const problems = shown.flatMap(({ picture }, i) => {
    const trouble =
      painting.painter.current?.problem({ sha256: picture.sha256, response: picture.response }) ??
      player.problem(picture.sha256) ??
      laid.get(picture.sha256)?.problem;
    return trouble ? [`${names[i]}: ${trouble}`] : [];
  });
  return {
    ...pictures,
    ...painting,
    choice: useMemo(() => ({ ...choice, layout }), [choice, layout]),
    change,
    setSize,
    blind,
    setBlind,
    hidden,
    player,
    laid,
    ratio,
    room,
    point,
    probe,
    names,
    captions,
    problems,
    /** One picture beside another, in one cell. */
    two: layout === 'wipe' || layout === 'difference' || layout === 'ratio',
  };
}

/** The pictures that are shown: bare and the filter at hand, or those that were picked. */
function useShown(view: SessionView, compared: ComparedSession, layout: string, blind: BlindState | null) {
  const [scene, setScene] = useState(compared.pictures[0]?.scene ?? '');
  const [picked, setPicked] = useState<Shown[] | null>(null);
  const [file, setFile] = useState<string | null>(null);
  const own = useMemo(() => compared.pictures.filter((one) => one.scene === scene), [compared, scene]);
  const bare = own.find((one) => one.filter === null) ?? null;
  const filters = useMemo(
    () => view.beads.filter((bead) => own.some((one) => one.filter === bead.id)),
    [view.beads, own],
  );
  const [selected, select] = useSelectedFilter(filters, filters[0]?.id ?? null);
  const second =
    own.find((one) => one.file === file && one.filter === selected) ??
    own.find((one) => one.filter === selected) ??
    null;
  const as = useCallback(
    (picture: (typeof own)[number]): Shown => ({ picture, bare: bareOf(compared, picture), session: compared }),
    [compared],
  );
  const shown = useMemo((): Shown[] => {
    if (blind) return blind.order;
    if (picked && MANY.has(layout)) return picked;
    if (layout === 'tiles') {
      const one = filters.flatMap((bead) => own.find((picture) => picture.filter === bead.id) ?? []);
      return [...(bare ? [bare] : []), ...one].slice(0, MOST_TILES_SHOWN).map(as);
    }
    return [...(bare ? [bare] : []), ...(second ? [second] : [])].map(as);
  }, [as, own, bare, second, layout, picked, blind, filters]);

  /** Bare and every filter of the scene once. */
  const every = () =>
    [null, ...filters.map((one) => one.id)].flatMap((id) => own.find((one) => one.filter === id) ?? []).map(as);
  return {
    scene,
    setScene: (next: string) => {
      setScene(next);
      setPicked(null);
    },
    setPicked,
    setFile,
    own,
    second,
    selected,
    select,
    shown,
    every,
  };
}

/** Reads what two pictures differ by at a place; nothing while names are hidden. */
function useProbe(
  view: SessionView,
  painter: ReturnType<typeof usePainter>['painter'],
  room: ReturnType<typeof roomOf>,
  hidden: boolean,
) {
  const space = useMemo(() => resolveColorSpace(view.session.rig.colorSpace), [view.session.rig.colorSpace]);
  return useCallback(
    ({ cell, x, y }: Pointed): Probed | null => {
      const { current } = painter;
      if (!room || !current || hidden) return null;
      const pair = room.cells[cell].b !== null;
      const first = current.probe(room, pair ? cell : 0, 'a', x, y, PROBE_HALF);
      const other = pair
        ? current.probe(room, cell, 'b', x, y, PROBE_HALF)
        : current.probe(room, cell, 'a', x, y, PROBE_HALF);
      if (!first || !other || (!pair && cell === 0)) return null;
      const [a, b] = [room.cells[pair ? cell : 0].a.gains, (pair ? room.cells[cell].b! : room.cells[cell].a).gains];
      return compareLight(
        first.map((value, c) => value * a[c]),
        other.map((value, c) => value * b[c]),
        room.cells[0].a.luminance,
        space,
      );
    },
    [painter, room, space, hidden],
  );
}
