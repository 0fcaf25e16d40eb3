import { loadKernel } from './kernel';
import { openScaler, type Scaler } from './scaled-picture';

let loaded: Scaler | null = null;
void loadKernel()
  .then((kernel) => {
    loaded = openScaler(kernel);
  })
  .catch((error) => console.error('Pictures are scaled by the browser.', error));

/** This worker's. Null until it is loaded, and in a browser that cannot: it draws every picture itself. */
export const scaler = (): Scaler | null => loaded;
