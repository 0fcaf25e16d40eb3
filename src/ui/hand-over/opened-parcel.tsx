import { Button, Checkbox, Col, Row } from 'antd';
import { useState } from 'react';
import { aboutBytesText, bytesText, clockText } from '@/core/base/figures';
import { clarityText } from '@/core/image/clarity';
import type { ParcelFacts, ParcelView } from '@/core/views/parcel';
import { Figures } from '../page/figures';
import { RulesList } from './rules-list';

/** A finished parcel: its pictures pixel for pixel, its figures, the rules it was checked against. */
export function OpenedParcel({
  parcel,
  facts,
  title,
}: {
  parcel: ParcelView;
  facts: ParcelFacts;
  title: string;
}) {
  const [whole, setWhole] = useState(false);
  const watched = facts.files.find(({ measured }) => measured.video);
  const { clarity, colour } = facts;
  const url = (name: string) => `/api/parcel-files/${parcel.id}/${name}`;
  const size = watched?.measured.video;
  return (
    <Row className="opened-parcel" gutter={[24, 14]}>
      {watched && size && (
        <Col xs={24} lg={13}>
          <div className={whole ? 'parcel-film whole' : 'parcel-film'}>
            {/* biome-ignore lint/a11y/useMediaCaption: captions are made in a later step */}
            <video
              src={url(watched.name)}
              controls
              width={size.width}
              height={size.height}
              aria-label={title}
            />
          </div>
          <Checkbox className="small" checked={whole} onChange={({ target }) => setWhole(target.checked)}>
            One to one (100 %)
          </Checkbox>
        </Col>
      )}
      <Col xs={24} lg={11}>
        <Figures
          of={[
            {
              name: 'Size',
              value: `${bytesText(facts.bytes)}, ${bytesText(facts.takeBytes)} recorded`,
              strong: true,
            },
            {
              name: 'Estimated size',
              value: `${aboutBytesText(parcel.plan.expected.bytes)} (${aboutBytesText(parcel.plan.expected.from)} to ${aboutBytesText(parcel.plan.expected.to)})`,
            },
            { name: 'Length', value: clockText(facts.durationUs) },
            clarity && {
              name: 'Text clarity',
              value: `${clarity.mean.toFixed(4)}, worst frame ${clarity.worst.toFixed(4)}: ${clarityText(clarity)}`,
              strong: true,
            },
            colour && {
              name: 'Colour of text',
              value: `${colour.mean.toFixed(4)}, worst ${colour.worst.toFixed(4)}`,
            },
            facts.copiedShare > 0 && {
              name: 'Copied as recorded',
              value: `${(facts.copiedShare * 100).toFixed(facts.copiedShare === 1 ? 0 : 1)} % of the frames`,
            },
            facts.crf !== null && { name: 'CRF', value: String(facts.crf) },
            { name: 'Render time', value: `${facts.seconds.toFixed(0)} s` },
          ]}
        />
        {facts.files.map(({ name, title: of, rules, measured }) => (
          <section key={name} aria-label={`Rules of ${of}`}>
            {facts.files.length > 1 && (
              <h3>
                {of}{' '}
                <Button href={`${url(name)}?name=${encodeURIComponent(`${title}, ${of}`)}`} download>
                  Download <span className="small">{bytesText(measured.bytes)}</span>
                </Button>
              </h3>
            )}
            <RulesList rules={rules} />
          </section>
        ))}
      </Col>
    </Row>
  );
}
