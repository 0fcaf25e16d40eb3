import fc from 'fast-check';
import { expect, it } from 'vitest';
import { shot, size } from '../../../tests/support/made-up';
import { outputShape } from '../deliver/output-shape';
import type { EncodedPart } from '../deliver/picture-part';
import { DESTINATIONS, type Destination } from '../destination/destination';
import { encodePartCommand, graphOf } from './encode-part';
import { cameraArea } from './spare-camera';

/** Every destination, and each as it is where H.264 is chosen. */
const destinations = fc.constantFrom(
  ...DESTINATIONS,
  ...DESTINATIONS.map((one): Destination => ({ ...one, video: { ...one.video, codecs: ['h264'] } })),
);

it('marks where a camera is laid over the screen, inside the picture that is encoded, and nothing else', () => {
  fc.assert(
    fc.property(shot, size, destinations, (shot, size, destination) => {
      const shape = outputShape(size, destination);
      const area = cameraArea(shot, size, shape);
      if (shot.cameras.length === 0 || shot.layout.kind === 'screen' || shot.layout.kind === 'camera')
        expect(area).toBeNull();
      if (!area) return;
      expect(area.x).toBeGreaterThanOrEqual(0);
      expect(area.y).toBeGreaterThanOrEqual(0);
      expect(area.x + area.width).toBeLessThanOrEqual(shape.canvas.width + 1);
      expect(area.y + area.height).toBeLessThanOrEqual(shape.canvas.height + 1);
    }),
  );
});

it('keeps less of a camera only where the bytes count and the encoder can be told', () => {
  let spared = 0;
  fc.assert(
    fc.property(shot, size, destinations, (shot, size, destination) => {
      const rate = { num: 30, den: 1 };
      const part: EncodedPart = {
        ...{
          kind: 'encode',
          atUs: 0,
          name: 'part',
          frames: 30,
          durationUs: 1_000_000,
          rate,
          shot,
          opening: null,
        },
        ...{ encoder: { destination, crf: 24 }, compared: { every: 15, frames: [0, 15] } },
      };
      const shape = outputShape(size, destination);
      const { args, files } = encodePartCommand(part, { size, shape, rate, parts: [part] }, '/scratch');
      const heeds = args.join(' ').includes('aq-mode=1:aq-strength=0');
      expect(graphOf(files).includes('addroi=')).toBe(heeds);
      if (heeds) spared++;
      const wanted = destination.aim === 'compact' && destination.video.codecs[0] === 'h264';
      expect(heeds).toBe(wanted && cameraArea(shot, size, shape) !== null);
    }),
    { numRuns: 120 },
  );
  expect(spared).toBeGreaterThan(0);
});
