import { App, Button, Col, Flex, Popconfirm, Progress as ProgressBar, Row } from 'antd';
import { useEffect, useRef, useState } from 'react';
import { bytesText, clockText } from '@/core/base/figures';
import { clarityText } from '@/core/image/clarity';
import type { ParcelFacts, ParcelView } from '@/core/views/parcel';
import type { JobView } from '@/core/views/take-page';
import { ShareLink } from '../page/share-link';
import { fetchJson } from '../wire/fetch-json';
import { isOver, useJob } from '../wire/use-job';
import { useTold } from '../wire/use-told';
import { OpenedParcel } from './opened-parcel';

const brokenOf = (facts: ParcelFacts) => facts.files.flatMap(({ rules }) => rules.filter(({ met }) => !met));
const allOf = (facts: ParcelFacts) => facts.files.reduce((sum, { rules }) => sum + rules.length, 0);

type Act = 'retry' | 'cancel' | 'delete';

/** One parcel of the list: how far it is, or what it became. */
export function ParcelRow(props: { parcel: ParcelView; title: string; onChange: () => void }) {
  const { parcel, title, onChange } = props;
  const job = useJob(`/api/parcels/${parcel.id}/progress`, parcel.job, onChange);
  const act = useActs(parcel, onChange);
  const [open, setOpen] = useState(false);
  const row = useRef<HTMLLIElement>(null);
  useEffect(() => {
    // What was opened is seen from its head on.
    if (open) row.current?.scrollIntoView();
  }, [open]);
  const facts = job?.state === 'done' ? parcel.facts : null;
  return (
    <li className="parcel" ref={row}>
      <Row gutter={[18, 8]} align="middle">
        <Col xs={24} lg={4}>
          <ParcelHead parcel={parcel} />
        </Col>
        <Col xs={24} lg={6}>
          {facts ? <Outcome facts={facts} /> : <Progress job={job} />}
        </Col>
        <Col xs={24} lg={14}>
          <Flex wrap gap={8} justify="end" align="center">
            {!isOver(job) && <Button onClick={() => act('cancel')}>Cancel</Button>}
            {(job?.state === 'failed' || job?.state === 'cancelled') && (
              <Button color="primary" variant="filled" onClick={() => act('retry')}>
                Try again
              </Button>
            )}
            {facts && (
              <>
                <Download {...{ parcel, facts, title }} />
                <Button aria-expanded={open} onClick={() => setOpen(!open)}>
                  {open ? 'Close' : 'Open'}
                </Button>
                <ShareLink of={{ parcel: parcel.id }} share={parcel.share} onChange={onChange} />
              </>
            )}
            {isOver(job) && <Remove parcel={parcel} onRemove={() => act('delete')} />}
          </Flex>
        </Col>
      </Row>
      {facts && open && <OpenedParcel parcel={parcel} facts={facts} title={title} />}
    </li>
  );
}

/** Makes a parcel again, cancels it, or moves it to the bin with a way back. */
function useActs(parcel: ParcelView, onChange: () => void): (what: Act) => Promise<void> {
  const told = useTold();
  const { notification } = App.useApp();
  const restore = async () => {
    if (!(await told(fetchJson('POST', `/api/bin/parcel/${parcel.id}`)))) return;
    notification.destroy(parcel.id);
    onChange();
  };
  return async (what) => {
    if (!(await told(fetchJson('PATCH', `/api/parcels/${parcel.id}`, { act: what })))) return;
    onChange();
    if (what === 'delete')
      notification.open({
        key: parcel.id,
        title: `The parcel for ${parcel.destination.name} was moved to the bin.`,
        description: `It can be restored for 30 days.${parcel.share ? ' Its link was revoked.' : ''}`,
        duration: 20,
        placement: 'bottomLeft',
        actions: <Button onClick={restore}>Undo</Button>,
      });
  };
}

/** Where it goes, when it was ordered, what it shows. */
function ParcelHead({ parcel }: { parcel: ParcelView }) {
  const { destination, createdAt, lengthUs, steps, shows } = parcel;
  return (
    <>
      <b>{destination.name}</b>
      <p className="small mute fig">
        {new Date(createdAt).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' })}
        {`, ${clockText(lengthUs)}${steps > 1 ? `, ${steps} steps` : ''}`}
      </p>
      {shows === 'earlier' && <p className="small amber">Made before your last edit</p>}
      {shows === 'take' && <p className="small mute">The whole take, not the cut</p>}
    </>
  );
}

/** Of one file; several are downloaded where they are listed. */
function Download({ parcel, facts, title }: { parcel: ParcelView; facts: ParcelFacts; title: string }) {
  const [file, ...more] = facts.files;
  if (!file || more.length > 0) return null;
  const name = encodeURIComponent(`${title}, ${parcel.destination.name}`);
  return (
    <Button
      color="primary"
      variant="filled"
      href={`/api/parcel-files/${parcel.id}/${file.name}?name=${name}`}
      download
    >
      Download
    </Button>
  );
}

function Remove({ parcel, onRemove }: { parcel: ParcelView; onRemove: () => void }) {
  if (!parcel.share)
    return (
      <Button type="text" onClick={onRemove}>
        Remove
      </Button>
    );
  return (
    <Popconfirm
      title={`Remove the parcel for ${parcel.destination.name}?`}
      description="Its link stops working at once; a restored parcel needs a new one."
      okText="Remove and revoke link"
      cancelText="Keep"
      onConfirm={onRemove}
    >
      <Button type="text">Remove</Button>
    </Popconfirm>
  );
}

function Outcome({ facts }: { facts: ParcelFacts }) {
  const broken = brokenOf(facts);
  const share = facts.bytes / Math.max(1, facts.takeBytes);
  const beside = share < 2 ? `${Math.round(share * 100)} % of` : `${share.toFixed(1)} times`;
  const clear = facts.clarity
    ? `, text ${clarityText(facts.clarity)}`
    : facts.copiedShare === 1
      ? ', as recorded'
      : '';
  return (
    <>
      <b className={broken.length === 0 ? undefined : 'clay'}>
        {broken.length === 0
          ? `All ${allOf(facts)} rules met.`
          : `${broken.length} of ${allOf(facts)} rules not met: ${broken[0]?.name.toLowerCase()}.`}
      </b>{' '}
      <span className="fig">{bytesText(facts.bytes)}</span>
      <span className="mute">
        , {beside} what was recorded{clear}
      </span>
    </>
  );
}

function Progress({ job }: { job: JobView | null }) {
  if (job?.state === 'failed') return <b className="clay">Failed: {job.problem}</b>;
  if (job?.state === 'cancelled') return <span className="mute">Cancelled; nothing was kept.</span>;
  const percent = Math.round((job?.progress ?? 0) * 100);
  const left = job?.secondsLeft ? `, about ${Math.max(1, Math.round(job.secondsLeft))} s left` : '';
  return (
    <div style={{ maxWidth: 420 }}>
      <ProgressBar percent={percent} showInfo={false} size="small" aria-label="Progress" />
      <span className="small">
        {percent} %{left} <span className="mute">{job?.step}</span>
      </span>
    </div>
  );
}
