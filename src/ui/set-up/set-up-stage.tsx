'use client';

import { Button, Col, Flex, Row, Skeleton } from 'antd';
import dynamic from 'next/dynamic';
import { type ComponentType, useEffect, useState } from 'react';
import { mostSevere } from '@/core/findings/preflight';
import { limitNote } from '@/core/rig/limits';
import { useRoom } from '../lesson/lesson-room';
import { Meter } from '../lesson/meter';
import { ButtonLink } from '../page/button-link';
import { SmallScreen } from '../page/small-screen';
import { Verdict } from '../page/verdict';
import { AimedPicture } from './aimed-picture';
import { FindingsList } from './findings-list';
import { FlowDrawing } from './flow/flow-drawing';
import { SourcePanel } from './panels/source-panel';
import { RigLine } from './rig-line';
import { SetUpProvider, useSetUp } from './set-up-context';
import { STRETCH_NAMES, STRETCHES, type Stretch } from './stretches';

const loading = () => <Skeleton active title={false} paragraph={{ rows: 6 }} />;
/** Each panel comes when its stretch is opened for the first time. */
const PANELS: Record<Stretch, ComponentType> = {
  source: SourcePanel,
  area: dynamic(() => import('./panels/area-panel').then((m) => m.AreaPanel), { loading }),
  picture: dynamic(() => import('./panels/picture-panel').then((m) => m.PicturePanel), { loading }),
  encode: dynamic(() => import('./panels/encode-panel').then((m) => m.EncodePanel), { loading }),
  file: dynamic(() => import('./panels/file-panel').then((m) => m.FilePanel), { loading }),
  camera: dynamic(() => import('./panels/camera-panel').then((m) => m.CameraPanel), { loading }),
  voice: dynamic(() => import('./panels/sound-panels').then((m) => m.VoicePanel), { loading }),
  'app-sound': dynamic(() => import('./panels/sound-panels').then((m) => m.AppSoundPanel), { loading }),
  rig: dynamic(() => import('./panels/rig-panel').then((m) => m.RigPanel), { loading }),
};
const MeasureLine = dynamic(() => import('./panels/measure-line').then((m) => m.MeasureLine));
const TextCrops = dynamic(() => import('./panels/measure-line').then((m) => m.TextCrops));

/** Set up: the flow of the data, the preview, and the choices of one stretch at a time. */
export function SetUpStage() {
  return (
    <SetUpProvider>
      <SetUp />
    </SetUpProvider>
  );
}

/** The stretch that is open, also in the address, so that a view can be linked to. */
function useStretch(): [Stretch, (stretch: Stretch) => void] {
  const [open, setOpen] = useState<Stretch>('source');
  useEffect(() => {
    const look = () => {
      const named = STRETCHES.find((stretch) => `#${stretch}` === window.location.hash);
      if (named) setOpen(named);
    };
    look();
    window.addEventListener('hashchange', look);
    return () => window.removeEventListener('hashchange', look);
  }, []);
  return [
    open,
    (stretch) => {
      setOpen(stretch);
      window.history.replaceState(window.history.state, '', `#${stretch}`);
    },
  ];
}

function SetUp() {
  const { lesson, session } = useRoom();
  const { rig, changeRig, findings } = useSetUp();
  const [open, setOpen] = useStretch();
  const Panel = PANELS[open];
  const weight = mostSevere(findings);
  const [first] = findings;
  const grave = weight === 'good' ? undefined : first;
  // What a rehearsal has shown stands in the sentence.
  const others = findings.filter((finding) => finding !== grave && (grave || finding.id !== 'rehearsed'));
  return (
    <main>
      <Verdict
        kind={weight}
        sentence={grave?.sentence ?? 'Ready to record.'}
        detail={
          [
            grave ? !grave.fix && grave.advice : findings.find(({ id }) => id === 'rehearsed')?.sentence,
            limitNote(rig.limits),
          ]
            .filter(Boolean)
            .join(' ') || undefined
        }
      >
        {grave?.fix && (
          <Button onClick={() => grave.fix && changeRig(grave.fix)}>
            {grave.advice?.replace(/\.$/, '')}
          </Button>
        )}
        {weight === 'stop' ? (
          <Button type="primary" disabled>
            Record
          </Button>
        ) : (
          <ButtonLink type="primary" href={`/lessons/${lesson.id}/record`}>
            Record
          </ButtonLink>
        )}
      </Verdict>
      <SmallScreen stage="Set up" />
      <FlowDrawing open={open} onOpen={setOpen} />
      <section className="set-up" role="tabpanel" id="stretch-panel" aria-label={STRETCH_NAMES[open]}>
        <Row gutter={24}>
          <Col className="preview" span={10} xxl={9}>
            <section className="stack" aria-label="Preview">
              <div className="live-room">
                <AimedPicture open={open} />
              </div>
              {session && (rig.voice || rig.appSound) && (
                <Flex vertical gap={8}>
                  {rig.voice && <Meter session={session} track="voice" />}
                  {rig.appSound && <Meter session={session} track="app-sound" />}
                </Flex>
              )}
              <RigLine open={open === 'rig'} onOpen={() => setOpen('rig')} />
              {open === 'encode' && <TextCrops />}
              {others.length > 0 && <FindingsList findings={others} />}
            </section>
          </Col>
          <Col className="choices" span={14} xxl={15}>
            <div className="row">
              <h2>{STRETCH_NAMES[open]}</h2>
              {open === 'encode' && <MeasureLine />}
            </div>
            <Panel />
          </Col>
        </Row>
      </section>
    </main>
  );
}
