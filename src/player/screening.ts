/** Decodes the separate tracks of takes and lays them out as a cut says. The page owns the clock, because only it has sound. */
import { at } from '@/core/cut/cut';
import { openedAt } from '@/core/cut/opening';
import { gathered } from './gather';
import { type FromPlayer, type PlayerOrder, ToPlayer } from './messages';
import { openPlaying } from './playing';
import { decodeSound, openReel } from './reels';
import { openSeeking, type Position } from './seeking';
import type { DecodeSound } from './sounds-ahead';
import { openStage } from './stage';

/** Serves one player of the page until that is closed. @param port its only way to and from the page */
export function openScreening(port: MessagePort, { pageOriginMs, takes, cut, canvas }: PlayerOrder): void {
  const tell = (message: FromPlayer, transfer: Transferable[] = []) => port.postMessage(message, transfer);
  let isClosed = false;
  const failed = (what: string) => (error: unknown) => {
    // What was still at work when the player was closed fails, and nobody waits for it.
    if (!isClosed)
      tell({ type: 'failed', message: `${what}: ${error instanceof Error ? error.message : error}` });
  };
  const position: Position = { us: 0, asked: 0 };
  const stage = openStage(canvas, cut, openReel);
  const undrawn = failed('The picture could not be drawn');
  const seeking = openSeeking(stage, position, tell, undrawn);
  const decode: DecodeSound = (...of) => gathered(decodeSound(...of));
  const playing = openPlaying(stage, position, pageOriginMs, decode, tell, failed);

  const tellLoaded = () => tell({ type: 'loaded', ...stage.size() });
  const seek = (us: number, asked: number) =>
    void seeking.seek({ us, asked }).catch(failed('The place could not be shown'));
  const open = async () => {
    await stage.open(takes);
    if (isClosed) return;
    tellLoaded();
    // Somebody may have wished for a place before there was anything to show.
    await seeking.seek({ us: position.us, asked: position.asked });
  };
  const obey = (message: ToPlayer): void => {
    switch (message.type) {
      case 'cut':
        stage.setCut(message.cut);
        // Another take that it begins with may have another size.
        if (stage.isOpen()) tellLoaded();
        seek(message.us, message.asked);
        break;
      case 'clock':
        playing.setClock(message);
        break;
      case 'play':
        seeking.end();
        playing.play(message);
        break;
      case 'pause':
        playing.pause();
        break;
      case 'seek':
        seek(message.us, message.asked);
        break;
      case 'step':
        void seeking.step(message).catch(failed('The picture could not be shown'));
        break;
      case 'solo':
        playing.setSolo(message.track);
        break;
      case 'reading':
        tell({ type: 'reading', us: stage.readingUs(position.us) });
        break;
      case 'resize':
        stage.resize(message);
        void stage.draw(position.us).catch(undrawn);
        // The picture that stands in a transition was as large as the canvas before.
        if (!playing.isPlaying() && openedAt(at(stage.cut(), position.us), position.us))
          seek(position.us, position.asked);
        break;
      case 'close':
        isClosed = true;
        seeking.end();
        playing.close();
        stage.close();
        port.close();
    }
  };
  port.onmessage = ({ data }: MessageEvent<unknown>) => obey(ToPlayer.parse(data));
  open().catch(failed('The take could not be opened'));
}
