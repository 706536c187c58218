'use client';

import { useState } from 'react';
import { isEdge, type SharpnessReadings } from '@/core/session/readings';
import { CurveChart } from '@/ui/charts/CurveChart';
import { edgeName, fixed, plusMinus } from '@/ui/format';
import { BudgetBar } from './Budget';
import { Panel } from './Panel';

/** Sides of a crop at most, picture's own pixels, and the room for it on the screen. */
const CROP = { width: 92, height: 76 };
const ROOM_PX = 190;
const MOST_ZOOM = 4;

/** Sharpness of a filter: response of the chosen edge, the edge itself bare and filtered, every edge's figure. */
export function SharpnessPanel({
  sessionId,
  edges,
  word,
  cause,
  advice,
  nameOf = edgeName,
}: {
  sessionId: string;
  edges: SharpnessReadings[];
  word?: string;
  /** What made it soft. */
  cause?: string;
  advice?: string;
  /** What people call a patch. */
  nameOf?: (patch: string) => string;
}) {
  const softest = [...edges].sort((a, b) => a.retained.value - b.retained.value)[0];
  const [chosen, choose] = useState(softest.patch);
  const shown = edges.find((one) => one.patch === chosen) ?? softest;
  const edge = isEdge(shown) ? shown : null;
  const scenes = edges.filter((one) => !isEdge(one));
  const points = (curve: number[]) => curve.map((value, i) => [i / (curve.length - 1), value] as const);
  return (
    <Panel title="Sharpness kept" method="sharpness-kept" word={word}>
      {edge && (
        <CurveChart
          label={`Response of the edge ${nameOf(edge.patch)}, bare and with the filter, against cycles per pixel`}
          curves={[
            { points: points(edge.curves.bare), ink: 'gray', dash: 'dashed' },
            { points: points(edge.curves.filtered), ink: 'bright' },
          ]}
          x={{ min: 0, max: 0.75, interval: 0.25, name: 'cycles/pixel' }}
          y={{ min: 0, max: 1, interval: 0.5, name: 'contrast left, bare dashed' }}
        />
      )}
      {edges.some(isEdge) && (
        <table className="w-full text-label mt-1">
          <thead>
            <tr className="text-ink-3 text-small">
              <th className="text-left font-medium">
                <span className="sr-only">edge</span>
              </th>
              <th className="text-right font-medium">MTF50 bare</th>
              <th className="text-right font-medium">filtered</th>
              <th className="text-right font-medium">kept</th>
            </tr>
          </thead>
          <tbody>
            {edges.filter(isEdge).map((one) => (
              <tr key={one.patch}>
                <th scope="row" className="text-left font-normal">
                  <button
                    type="button"
                    aria-pressed={one === edge}
                    onClick={() => choose(one.patch)}
                    className={`text-left min-h-[24px] ${one === edge ? 'text-accent font-semibold' : 'text-ink-2 hover:text-ink'}`}
                  >
                    {nameOf(one.patch)}
                  </button>
                </th>
                <td className="text-right">{fixed(one.baselineMtf50.value, 3)}</td>
                <td className="text-right">{fixed(one.mtf50.value, 3)}</td>
                <td className="text-right whitespace-nowrap">
                  {fixed(one.retained.value)} <span className="unit">{plusMinus(one.retained.u95)}</span>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {scenes.map((one) => (
        <p key={one.patch} className="flex justify-between gap-3 text-label mt-1.5">
          <span className="text-ink-2">
            “{one.scene}”, an ordinary scene, at {fixed(one.atFrequency ?? 0)} cycles/pixel
          </span>
          <span className="whitespace-nowrap">
            {fixed(one.retained.value)} <span className="unit">{plusMinus(one.retained.u95)}</span>
          </span>
        </p>
      ))}
      {edge?.pictures && (
        <div className="grid grid-cols-2 gap-3 mt-3" key={edge.patch}>
          <Crop sessionId={sessionId} place={edge.pictures.bare} title="bare" />
          <Crop sessionId={sessionId} place={edge.pictures.filtered} title="filtered" />
        </div>
      )}
      {edge?.pictures && (
        <p className="text-small text-ink-3 mt-1">
          “{edge.patch}” at the picture’s own pixels, enlarged, both at one brightness.
        </p>
      )}
      {cause && <p className="text-ink-2 mt-2">{cause}</p>}
      {shown.budget && <BudgetBar lines={shown.budget} unit="of the ratio" advice={advice} />}
    </Panel>
  );
}

type Place = NonNullable<SharpnessReadings['pictures']>['bare'];

function Crop({ sessionId, place, title }: { sessionId: string; place: Place; title: string }) {
  const width = Math.min(CROP.width, place.width);
  const height = Math.min(CROP.height, place.height);
  const x = Math.round(place.x + (place.width - width) / 2);
  const y = Math.round(place.y + (place.height - height) / 2);
  const zoom = Math.max(1, Math.min(MOST_ZOOM, Math.floor(ROOM_PX / width)));
  const query = new URLSearchParams({ file: place.file, ...text({ x, y, width, height }) });
  return (
    <figure className="min-w-0">
      <img
        src={`/api/sessions/${sessionId}/crop?${query}`}
        alt={`The edge, ${title}`}
        width={zoom * width}
        height={zoom * height}
        loading="lazy"
        className="max-w-full h-auto mat"
        style={{ imageRendering: 'pixelated' }}
      />
      <figcaption className="text-small text-ink-2 mt-1 truncate">
        {title} <span className="text-ink-3">{place.file}</span>
      </figcaption>
    </figure>
  );
}

function text(numbers: Record<string, number>): Record<string, string> {
  return Object.fromEntries(Object.entries(numbers).map(([key, value]) => [key, String(value)]));
}
