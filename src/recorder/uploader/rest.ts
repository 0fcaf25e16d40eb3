/**
 * A rest between rounds that can be cut short. A call that comes while nobody rests is not lost: it cuts the next rest short, since the
 * round under way may have looked before there was anything to see.
 */
export function openRest(): { rest: (ms: number) => Promise<void>; wake: () => void } {
  let isCalled = false;
  let wake = () => {
    isCalled = true;
  };
  const remember = wake;
  return {
    rest: (ms) =>
      new Promise((done) => {
        const end = () => {
          clearTimeout(timer);
          wake = remember;
          isCalled = false;
          done();
        };
        const timer = setTimeout(end, ms);
        wake = end;
        if (isCalled) end();
      }),
    wake: () => wake(),
  };
}
