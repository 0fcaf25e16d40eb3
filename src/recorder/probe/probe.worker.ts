/** Measures encoders beside the page, so that the page stays responsive. */
import { problemOf } from '@/core/base/problem';
import { measureMarks } from './marks';
import { type FromProbe, ToProbe } from './messages';
import { measureSpeeds } from './speeds';

const tell = (message: FromProbe) => postMessage(message);

self.onmessage = async ({ data }: MessageEvent<unknown>) => {
  try {
    const order = ToProbe.parse(data);
    if (order.type === 'speeds')
      tell({ type: 'speeds', speeds: await measureSpeeds(order.picture, order.rate) });
    else tell({ type: 'marks', ...(await measureMarks(order.port, order.settings)) });
  } catch (error) {
    tell({ type: 'problem', problem: problemOf(error) });
  }
};
