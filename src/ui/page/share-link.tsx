import { CheckOutlined } from '@ant-design/icons';
import { App, Button, Flex, Popconfirm } from 'antd';
import { useEffect, useState } from 'react';
import type { ParcelId, TakeId } from '@/core/base/ids';
import type { ShareView } from '@/core/views/take-page';
import { fetchJson } from '../wire/fetch-json';
import { useTold } from '../wire/use-told';

/** For so long the button says that it did. */
const COPIED_MS = 3000;

/** Whether an address leads nowhere from another machine. */
const isLocal = (url: string): boolean => /^(localhost|127\.|\[::1\])/.test(new URL(url).host);

/** Makes, shows, copies and revokes the link of a parcel or a take. */
export function ShareLink(props: {
  of: { parcel: ParcelId } | { take: TakeId };
  share: ShareView | null;
  onChange: () => void;
}) {
  const { share, onChange } = props;
  const { message } = App.useApp();
  const [copied, setCopied] = useState(false);
  useEffect(() => {
    if (!copied) return;
    const timer = setTimeout(() => setCopied(false), COPIED_MS);
    return () => clearTimeout(timer);
  }, [copied]);
  const told = useTold();
  const change = async (work: Promise<unknown>) => {
    if (await told(work)) onChange();
  };
  const copy = async (url: string) => {
    // Without a permission for the clipboard the address is still there to be marked.
    await navigator.clipboard.writeText(url).then(
      () => setCopied(true),
      () => message.warning('The browser did not let it be copied: mark the address and copy it.'),
    );
  };
  if (!share)
    return <Button onClick={() => change(fetchJson('POST', '/api/shares', props.of))}>Make a link</Button>;
  return (
    <Flex className="share-link" wrap gap={8} justify="end" align="center">
      <a href={share.url} target="_blank" rel="noreferrer" className="small">
        {share.url.replace(/^https?:\/\//, '')}
      </a>
      <Button icon={copied ? <CheckOutlined /> : undefined} onClick={() => copy(share.url)}>
        {copied ? 'Copied' : 'Copy link'}
      </Button>
      <span className="sr-only" role="status">
        {copied && 'The link was copied.'}
      </span>
      {isLocal(share.url) && <span className="small amber">works only on this computer</span>}
      <Popconfirm
        title="Revoke this link?"
        description="It stops working at once, for everyone who has it. This cannot be undone."
        okText="Revoke link"
        okButtonProps={{ danger: true }}
        onConfirm={() => change(fetchJson('DELETE', `/api/shares/${share.token}`))}
      >
        <Button type="text">Revoke link</Button>
      </Popconfirm>
    </Flex>
  );
}
