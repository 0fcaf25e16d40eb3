/** Serves the page's players, one after the other: what the browser has compiled for one is there for the next. */
import { PlayerOrder } from './messages';
import { openScreening } from './screening';

self.onmessage = ({ data, ports: [port] }: MessageEvent<unknown>) => {
  if (port) openScreening(port, PlayerOrder.parse(data));
};
