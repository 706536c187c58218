import { sunPosition } from '@/core/formulas/sun/sun';
import { NO_COLOR_BOOST } from '@/core/words/polarizer';
import { skyRose } from '@/core/formulas/optics/rayleigh';
import type { CutReadings, PolarizerReadings, Reading, SkyTurn } from '@/core/session/readings';
import type { Session } from '@/core/session/schema';
import { RingDial } from '@/ui/charts/RingDial';
import { SkyRose } from '@/ui/charts/SkyRose';
import { fixed, plusMinus } from '@/ui/format';
import { BudgetBar } from './Budget';
import { Panel } from './Panel';

/** What a polarizer does: its ring before a screen, glare and sky against their reference. */
export function PolarizerPanel({
  polarizer,
  session,
  word,
}: {
  polarizer: PolarizerReadings;
  session: Session;
  word?: string;
}) {
  const { sweep, glare, sky, turn } = polarizer;
  const screen = session.scenes.find((scene) => scene.id === sweep?.scene);
  return (
    <Panel title="Polarizer" method="polarizers" word={word}>
      {sweep && (
        <div className="grid gap-x-8 gap-y-4 mt-3 sm:grid-cols-2 items-center">
          <RingDial
            curve={sweep.curve}
            points={sweep.points}
            title="Ring sweep"
            screenDegrees={screen?.optics?.screenDegrees}
          />
          <div>
            <p className="text-ink-2">{sweep.sentence}</p>
            <dl className="grid grid-cols-[1fr_auto] gap-y-0.5 mt-3">
              <Figure what="brightest" reading={polarizer.brightest} unit="stops" />
              <Figure what="darkest" reading={polarizer.darkest} unit="stops" />
              <Figure what="extinction" reading={polarizer.extinctionStops} unit="stops" />
              <Figure what="brightest at" reading={polarizer.axisDegrees} unit="°" decimals={1} />
              <Figure what="mark off by" reading={polarizer.markOffsetDegrees} unit="°" decimals={1} />
              <Figure what="of its strength, polarizing" reading={polarizer.ownShare} unit="stops" />
            </dl>
            <Design sweep={sweep} />
          </div>
        </div>
      )}
      {polarizer.budget && sweep && <BudgetBar lines={polarizer.budget} unit="of a stop" />}
      <div className="grid gap-x-8 lg:grid-cols-2 items-start">
        {glare && polarizer.glareCut && (
          <Cut title="Glare cut" cut={glare} reading={polarizer.glareCut} session={session}>
            {NO_COLOR_BOOST}
          </Cut>
        )}
        {sky && polarizer.skyDarkening && (
          <Cut title="Sky darkened" cut={sky} reading={polarizer.skyDarkening} session={session} rose />
        )}
      </div>
      {turn && <Turn turn={turn} />}
    </Panel>
  );
}

/** Darkening by heading of a camera that turned about. */
function Turn({ turn }: { turn: SkyTurn }) {
  const rose = turn.expected?.map(([azimuth, stops]) => ({ azimuth, stops }));
  const own = turn.points.map((one) => ({ azimuth: one.heading, stops: Math.max(0, one.stops.value) }));
  return (
    <div className="mt-4 pt-3 border-t border-rule">
      <h3 className="text-label font-strong">Sky by heading</h3>
      <div className="grid gap-4 sm:grid-cols-[1fr_minmax(0,260px)] items-center mt-1">
        <div>
          <p className="text-label text-ink-2">{turn.sentence}</p>
          <p className="text-small text-ink-3 mt-1">
            Dots are measured,{' '}
            {rose ? 'the line is what a clear sky allows with the ring at its best' : 'joined by a line'}. Even a good
            polarizer darkens a wide sky unevenly.
          </p>
        </div>
        <SkyRose known rose={rose ?? own} points={turn.points} sunAzimuth={turn.sun?.azimuth} />
      </div>
    </div>
  );
}

function Figure({
  what,
  reading,
  unit,
  decimals = 2,
}: {
  what: string;
  reading?: Reading;
  unit: string;
  decimals?: number;
}) {
  if (!reading) return null;
  return (
    <>
      <dt className="text-ink-2">{what}</dt>
      <dd className="text-right whitespace-nowrap">
        {fixed(reading.value, decimals)}
        {unit === '°' ? '°' : ' '}
        <span className="unit">
          {unit === '°' ? '' : unit} {plusMinus(reading.u95, decimals)}
        </span>
      </dd>
    </>
  );
}

/** What other numbers of angles would leave uncertain. */
function Design({ sweep: { design } }: { sweep: NonNullable<PolarizerReadings['sweep']> }) {
  const cell = 'text-right pl-3 whitespace-nowrap';
  return (
    <table className="w-full text-small mt-3">
      <thead>
        <tr className="text-ink-3">
          <th className="text-left font-medium">angles over 180°</th>
          <th className={`${cell} font-medium`}>darkest</th>
          <th className={`${cell} font-medium`}>axis</th>
        </tr>
      </thead>
      <tbody>
        {design.map((one) => (
          <tr key={one.angles} className="text-ink-2">
            <td>{one.angles}</td>
            <td className={cell}>{plusMinus(one.darkest, 3)} stop</td>
            <td className={cell}>{plusMinus(one.axisDegrees)}°</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Cut({
  title,
  cut,
  reading,
  session,
  rose = false,
  children,
}: {
  title: string;
  cut: CutReadings;
  reading: Reading;
  session: Session;
  rose?: boolean;
  children?: React.ReactNode;
}) {
  return (
    <div className="mt-4 pt-3 border-t border-rule">
      <h3 className="flex justify-between text-label font-strong">
        {title}
        <span className="font-normal text-ink-3">
          “{cut.patch}” beside “{cut.reference}”
          {cut.atDegrees === undefined ? '' : `, ring at ${fixed(cut.atDegrees, 0)}°`}
        </span>
      </h3>
      <div className={cut.curve || rose ? 'grid gap-4 sm:grid-cols-[1fr_minmax(0,210px)] items-center mt-1' : ''}>
        <div>
          <p>
            <span className="text-figure font-medium">{fixed(reading.value)}</span>{' '}
            <span className="unit">stops {plusMinus(reading.u95)}</span>
          </p>
          <p className="text-label text-ink-2 mt-1">{cut.sentence}</p>
          {children && <p className="text-small text-ink-3 mt-1">{children}</p>}
        </div>
        {rose ? (
          <Rose cut={cut} reading={reading} session={session} />
        ) : (
          cut.curve && <RingDial curve={cut.curve} points={cut.points} title={title} />
        )}
      </div>
    </div>
  );
}

/** The sky around the place of the session: with the sun where it stood, or at the top where only the angle to it is known. */
function Rose({ cut, reading, session }: { cut: CutReadings; reading: Reading; session: Session }) {
  const optics = session.scenes.find((scene) => scene.id === cut.scene)?.optics;
  const time = session.takes.find((take) => take.scene === cut.scene && take.capturedAt)?.capturedAt;
  if (optics?.place && optics.view && time) {
    const sun = sunPosition(new Date(time), optics.place);
    return (
      <SkyRose
        known
        rose={skyRose(sun, optics.view.altitude)}
        sunAzimuth={sun.azimuth}
        view={{ azimuth: optics.view.azimuth, stops: reading.value }}
      />
    );
  }
  if (optics?.sunAngleDegrees === undefined)
    return cut.curve ? <RingDial curve={cut.curve} points={cut.points} title="Sky by ring angle" /> : null;
  return (
    <SkyRose
      known={false}
      rose={skyRose({ azimuth: 0, altitude: 0 }, 0)}
      sunAzimuth={0}
      view={{ azimuth: optics.sunAngleDegrees, stops: reading.value }}
    />
  );
}
