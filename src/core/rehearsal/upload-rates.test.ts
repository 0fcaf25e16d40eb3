import fc from 'fast-check';
import { expect, it } from 'vitest';
import { uploadRates } from './upload-rates';

const points = (n: number, recorded: (n: number) => number, sent: (n: number) => number) =>
  Array.from({ length: n }, (_, i) => ({
    atUs: i * 250_000,
    recordedBytes: recorded(i),
    sentBytes: sent(i),
  }));

it('tells the two rates of an upload that does not follow', () => {
  const upload = points(
    33,
    (n) => n * 25_000,
    (n) => n * 5000,
  );
  expect(uploadRates({ upload })).toEqual({ recordedKbps: 800, sentKbps: 160 });
});

it('counts an upload as following when it catches up, however uneven the recording is', () => {
  fc.assert(
    fc.property(
      fc.array(fc.integer({ min: 0, max: 400_000 }), { minLength: 16, maxLength: 40 }),
      (bursts) => {
        const sums = bursts.map((_, i) => bursts.slice(0, i + 1).reduce((sum, one) => sum + one, 0));
        // What was recorded in a quarter of a second has been sent in the next.
        const upload = points(
          bursts.length,
          (n) => sums[n] ?? 0,
          (n) => (n % 2 === 0 ? (sums[n] ?? 0) : (sums[n - 1] ?? 0)),
        );
        const rates = uploadRates({ upload });
        if (rates) expect(rates.sentKbps).toBe(rates.recordedKbps);
      },
    ),
  );
});

it('says nothing of too little', () => {
  expect(uploadRates({ upload: [] })).toBeNull();
  expect(
    uploadRates({
      upload: points(
        40,
        (n) => n * 100,
        () => 0,
      ),
    }),
  ).toBeNull();
  expect(
    uploadRates({
      upload: points(
        5,
        (n) => n * 90_000,
        () => 0,
      ),
    }),
  ).toBeNull();
});
