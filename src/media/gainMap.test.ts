import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { readWindows } from '@/core/reading/source';
import { openStill } from './stills';

let folder: string;
beforeAll(async () => (folder = await mkdtemp(join(tmpdir(), 'glade-gain-'))));
afterAll(() => rm(folder, { recursive: true, force: true }));

const MAP = 'http://ns.adobe.com/hdr-gain-map/1.0/';
const RDF = 'http://www.w3.org/1999/02/22-rdf-syntax-ns#';

function segment(marker: number, body: Buffer): Buffer {
  const head = Buffer.alloc(4);
  head.writeUInt16BE(marker);
  head.writeUInt16BE(body.length + 2, 2);
  return Buffer.concat([head, body]);
}

function xmp(description: string): Buffer {
  const text = `<x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf:RDF xmlns:rdf="${RDF}"><rdf:Description ${description}</rdf:RDF></x:xmpmeta>`;
  return segment(0xffe1, Buffer.from(`http://ns.adobe.com/xap/1.0/\0${text}`));
}

/** A JPEG with a second one behind it that brightens it, as phones write them (the published Ultra HDR format 1.1; layout from memory). */
function withGainMap(base: Buffer, map: Buffer): Buffer {
  const tagged = Buffer.concat([
    map.subarray(0, 2),
    xmp(
      `xmlns:hdrgm="${MAP}" hdrgm:Version="1.0" hdrgm:GainMapMin="0" hdrgm:GainMapMax="2" hdrgm:HDRCapacityMin="0" hdrgm:HDRCapacityMax="2"/>`,
    ),
    map.subarray(2),
  ]);
  const container = 'http://ns.google.com/photos/1.0/container/';
  const item = (semantic: string, length: string) =>
    `<rdf:li rdf:parseType="Resource"><Container:Item Item:Semantic="${semantic}" Item:Mime="image/jpeg"${length}/></rdf:li>`;
  const primary = xmp(
    `xmlns:Container="${container}" xmlns:Item="${container}item/" xmlns:hdrgm="${MAP}" hdrgm:Version="1.0"><Container:Directory><rdf:Seq>` +
      `${item('Primary', '')}${item('GainMap', ` Item:Length="${tagged.length}"`)}</rdf:Seq></Container:Directory></rdf:Description>`,
  );
  return Buffer.concat([base.subarray(0, 2), primary, base.subarray(2), tagged]);
}

test('the base picture is measured, the map is left out and told', async () => {
  const size = { width: 96, height: 64 };
  const codes = Uint8Array.from({ length: size.width * size.height * 3 }, (_, i) => (i * 7) % 256);
  const base = await sharp(codes, { raw: { ...size, channels: 3 } })
    .jpeg({ quality: 95 })
    .toBuffer();
  const map = await sharp({ create: { width: 48, height: 32, channels: 3, background: '#c0c0c0' } })
    .greyscale()
    .jpeg()
    .toBuffer();
  const [plain, gained] = [join(folder, 'plain.jpg'), join(folder, 'gained.jpg')];
  await writeFile(plain, base);
  await writeFile(gained, withGainMap(base, map));
  const whole = () => [{ x: 0, y: 0, ...size }];
  const [without, having] = [
    await readWindows(openStill(plain, plain), whole),
    await readWindows(openStill(gained, gained), whole),
  ];
  expect(having.facts).toMatchObject({ ...size, bitDepth: 8, gainMap: true });
  expect(without.facts.gainMap).toBeUndefined();
  expect([...having.windows[0].data]).toEqual([...without.windows[0].data]);
});
