'use client';

import Link from 'next/link';
import { useMemo } from 'react';
import { CODEC_NAMES } from '@/core/codecs';
import { bitrateText } from '@/core/figures';
import { type Finding, preflight } from '@/core/preflight';
import { megabytesPerMinute, trackRates } from '@/core/rate';
import { rateText } from '@/core/rational';
import type { Rig } from '@/core/rig';
import { roomText } from '@/core/room';
import { fitWithin, type Size, sizeText } from '@/core/sizes';
import type { Session } from '@/recorder/session';
import { recordingProblem } from '@/recorder/sources';
import { useRoom, useSourceStates } from '../lesson/lesson-room';
import { LivePicture } from '../lesson/live-picture';
import { Meter } from '../lesson/meter';
import { Verdict } from '../shared/verdict';
import { CameraChoices } from './camera-choices';
import { PictureChoices } from './picture-choices';
import { useRoomLeft } from './room';
import { SoundChoices } from './sound-choices';

/** The findings about the rig with the sources as they are now. */
export function useFindings(): Finding[] {
  const { rig, session } = useRoom();
  const states = useSourceStates(session);
  const room = useRoomLeft();
  return useMemo(
    () => preflight(rig, { browser: session ? null : browserProblem(), sources: states, room }),
    [rig, session, states, room],
  );
}

const browserProblem = () => (typeof window === 'undefined' ? null : recordingProblem());

/** Set up: what is recorded, seen and heard as it will be. */
export function SetUpStage() {
  const { lesson, rig, session } = useRoom();
  const findings = useFindings();
  const [first, ...more] = findings;
  if (!first) return null;
  return (
    <main>
      <Verdict kind={first.weight} sentence={first.sentence} detail={first.fix}>
        {first.weight === 'stop' ? null : (
          <Link className="act main" href={`/lessons/${lesson.id}/record`}>
            Record
          </Link>
        )}
      </Verdict>
      <div className="set-up">
        <section aria-label="As it will be">
          <LivePicture />
          {session && (rig.voice || rig.appSound) && (
            <div className="meters">
              {rig.voice && <Meter session={session} track="voice" />}
              {rig.appSound && <Meter session={session} track="app-sound" />}
            </div>
          )}
          <TrackFigures rig={rig} session={session} />
          {more.length > 0 && (
            <div className="findings">
              <h2>Before you record</h2>
              <ul>
                {more.map((finding) => (
                  <li key={finding.sentence}>
                    {finding.sentence} {finding.fix && <span className="mute">{finding.fix}</span>}
                  </li>
                ))}
              </ul>
            </div>
          )}
        </section>
        <section className="panel choices" aria-label="Choices">
          <PictureChoices />
          <CameraChoices />
          <SoundChoices />
        </section>
      </div>
    </main>
  );
}

/** What each track will be, and the most it costs. */
function TrackFigures({ rig, session }: { rig: Rig; session: Session | null }) {
  const states = useSourceStates(session);
  const source: Size | undefined = states.screen?.size;
  const picture = source && fitWithin(source, rig.picture.box ?? source);
  const cameraSize = states.camera?.size ?? rig.camera?.size;
  const rates = trackRates(rig, source, states.camera?.size);
  const room = useRoomLeft();
  const sound = rig.sound.codec === 'pcm' ? 'PCM 16 bit' : 'Opus';
  return (
    <table className="track-figures">
      <caption className="sr-only">What is recorded</caption>
      <tbody>
        {picture && (
          <Row
            colour="river"
            name="Screen"
            what={`${sizeText(picture)}, ${rateText(rig.picture.frameRate)} a second, ${CODEC_NAMES[rig.picture.codec]}`}
            kbps={rates.screen}
            most
          />
        )}
        {rig.camera && cameraSize && (
          <Row
            colour="plum"
            name="Camera"
            what={`${sizeText(cameraSize)}, ${rateText(rig.camera.frameRate)} a second`}
            kbps={rates.camera}
            most
          />
        )}
        {rig.voice && <Row colour="moss" name="Voice" what={`one channel, ${sound}`} kbps={rates.voice} />}
        {rig.appSound && (
          <Row
            colour="heron"
            name="App sound"
            what={`${Math.abs(rig.appSound.gainDb)} dB under the voice, ${sound}`}
            kbps={rates.appSound}
          />
        )}
      </tbody>
      <tfoot>
        <tr>
          <th scope="row">Together</th>
          <td className="mute">a still screen costs far less</td>
          <td className="fig">at most {megabytesPerMinute(rates.total).toFixed(0)} MB a minute</td>
        </tr>
        {(room.browser || room.server) && (
          <tr>
            <th scope="row">Room left</th>
            <td className="mute">at that rate; more on a still screen</td>
            <td className="fig">
              {room.browser && (
                <>
                  {roomText(room.browser)} <span className="mute small">in this browser</span>
                </>
              )}
              {room.browser && room.server && <br />}
              {room.server && (
                <>
                  {roomText(room.server)} <span className="mute small">on the studio’s disk</span>
                </>
              )}
            </td>
          </tr>
        )}
      </tfoot>
    </table>
  );
}

function Row({
  colour,
  name,
  what,
  kbps,
  most = false,
}: {
  colour: string;
  name: string;
  what: string;
  kbps: number;
  most?: boolean;
}) {
  return (
    <tr>
      <th scope="row" style={{ color: `var(--${colour})` }}>
        {name}
      </th>
      <td>{what}</td>
      <td className="fig">
        {most && <span className="mute small">up to </span>}
        {bitrateText(kbps * 1000)}
      </td>
    </tr>
  );
}
