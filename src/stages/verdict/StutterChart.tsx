import type { MotionReadings } from '@/core/session/readings';
import { CurveChart } from '@/ui/charts/CurveChart';
import { fixed } from '@/ui/format';

type Clip = Pick<MotionReadings, 'jumpPx' | 'shutterAngle' | 'seenAngle'>;

/** Eyes are used to things that are smeared over half of their jump. */
const USED_TO = 180;

/** How far a thing is smeared at every shutter angle, under the line of how far it jumps: what is left between them is seen as stutter. */
export function StutterChart({ clips }: { clips: readonly { name: string; clip: Clip }[] }) {
  const told = clips.flatMap(({ name, clip }) => {
    const angle = clip.shutterAngle ?? clip.seenAngle?.value;
    return clip.jumpPx && angle !== undefined ? [{ name, angle: Math.min(360, angle), jump: clip.jumpPx.value }] : [];
  });
  const filtered = told.find(({ name }) => name !== 'bare') ?? told[0];
  if (!filtered || filtered.jump < 0.3) return null;
  const { jump } = filtered;
  const most = Number((1.15 * Math.max(...told.map((one) => one.jump))).toPrecision(2));
  const words = told.map(
    (one) =>
      `${one.name} at ${fixed(one.angle, 0)}°: smeared over ${fixed((one.jump * one.angle) / 360, 1)} of the ${fixed(one.jump, 1)} px that it jumps`,
  );
  return (
    <figure className="mt-2">
      <CurveChart
        curves={[
          {
            points: [
              [0, jump],
              [360, jump],
            ],
            ink: 'gray',
            dash: 'dashed',
          },
          {
            points: [
              [0, 0],
              [360, jump],
            ],
            ink: 'bright',
          },
          {
            points: [
              [USED_TO, 0],
              [USED_TO, most],
            ],
            ink: 'gray',
            dash: 'dotted',
          },
          ...told.map(({ name, angle, jump: own }) => ({
            points: [[angle, (own * angle) / 360]] as [number, number][],
            ink: name === 'bare' ? ('gray' as const) : ('bright' as const),
            dots: true,
          })),
        ]}
        x={{ min: 0, max: 360, interval: 90, name: 'shutter angle, degrees; dotted at 180°' }}
        y={{ min: 0, max: most, name: 'smear in a frame, px; jump to the next dashed' }}
        label={`Smear against jump. ${words.join('; ')}. Eyes are used to half, at 180°.`}
        height={140}
      />
      <figcaption className="text-ink-3 text-small">{sentence(words)}</figcaption>
    </figure>
  );
}

const sentence = (words: readonly string[]) => {
  const [first, ...rest] = words;
  return `${first.charAt(0).toUpperCase()}${first.slice(1)}${rest.length > 0 ? `; ${rest.join('; ')}` : ''}.`;
};
