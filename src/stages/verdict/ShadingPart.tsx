import type { FilterReadings } from '@/core/session';
import { fixed, plusMinus } from '@/ui/format';

type Shading = NonNullable<FilterReadings['shading']>;

const CORNERS = [
  ['topLeft', 'top left'],
  ['topRight', 'top right'],
  ['bottomLeft', 'bottom left'],
  ['bottomRight', 'bottom right'],
] as const;

/** Shading on a filter's sheet: what the filter adds beside what the lens does alone, and the corners. */
export function ShadingPart({ shading, words }: { shading: Shading; words: (string | undefined)[] }) {
  return (
    <section aria-label="Corners" className="mt-4 pt-3 border-t border-[#5a5a5a]">
      <h3 className="flex justify-between font-[650]">
        Corners <span className="font-normal text-ink-2">{words.filter(Boolean).join(', ')}</span>
      </h3>
      <div className="grid grid-cols-2 gap-3 mt-2">
        <GrayMap map={shading.map} title="The filter adds" />
        <GrayMap map={shading.lens} title="The lens alone" />
      </div>
      <dl className="grid grid-cols-[1fr_auto] gap-y-0.5 mt-2 text-[13px]">
        {CORNERS.map(([key, name]) => {
          const corner = shading.corners[key];
          return (
            <div key={key} className="contents">
              <dt className="text-ink-2">{name}</dt>
              <dd className="text-right">
                {corner ? (
                  <>
                    {fixed(corner.value, 3)} <span className="unit">stops {plusMinus(corner.u95, 3)}</span>
                  </>
                ) : (
                  'withheld'
                )}
              </dd>
            </div>
          );
        })}
        <dt className="text-ink-2">unevenness</dt>
        <dd className="text-right">
          {fixed(shading.unevenness.value)} <span className="unit">stops</span>
        </dd>
      </dl>
    </section>
  );
}

/** A map in stops as grays in steps of a twentieth of a stop, both maps on one scale, with the darkest figure. */
function GrayMap({ map, title }: { map: { columns: number; rows: number; stops: number[] }; title: string }) {
  const darkest = Math.min(...map.stops);
  const tone = (stops: number) => Math.round(205 + Math.max(-1.6, Math.min(0.4, stops)) * 110);
  return (
    <figure>
      <svg
        viewBox={`0 0 ${map.columns} ${map.rows}`}
        className="w-full block"
        role="img"
        aria-label={`${title}: down to ${fixed(darkest)} stops`}
        shapeRendering="crispEdges"
      >
        {map.stops.map((stops, i) => {
          const gray = tone(Math.round(stops * 20) / 20);
          return (
            <rect
              key={i}
              x={i % map.columns}
              y={Math.floor(i / map.columns)}
              width="1.02"
              height="1.02"
              fill={`rgb(${gray} ${gray} ${gray})`}
            />
          );
        })}
      </svg>
      <figcaption className="text-[12px] text-ink-3 mt-1">
        {title}: down to {fixed(darkest)}
      </figcaption>
    </figure>
  );
}
