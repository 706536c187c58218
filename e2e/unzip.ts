/** Reads a zip in memory. */
import { buffer } from 'node:stream/consumers';
import { fromBuffer } from 'yauzl';

export const ZipFile = {
  read: (bytes: Buffer): Promise<Map<string, Buffer>> =>
    new Promise((resolve, reject) => {
      fromBuffer(bytes, { lazyEntries: true }, (error, zip) => {
        if (error) return reject(error);
        const files = new Map<string, Buffer>();
        zip.on('error', reject);
        zip.on('end', () => resolve(files));
        zip.on('entry', (entry: { fileName: string }) => {
          zip.openReadStream(entry as never, (problem, stream) => {
            if (problem) return reject(problem);
            void buffer(stream).then((content) => {
              files.set(entry.fileName, content);
              zip.readEntry();
            }, reject);
          });
        });
        zip.readEntry();
      });
    }),
};
