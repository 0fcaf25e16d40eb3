import { App } from 'antd';
import type { ParcelId, TakeId } from '@/core/ids';
import { problemOf } from '@/core/problem';
import type { ShareView } from '@/core/take-page';
import { fetchJson } from './fetch-json';

/** Makes, shows, copies and revokes the link of a parcel or a take. */
export function ShareLink(props: {
  of: { parcel: ParcelId } | { take: TakeId };
  share: ShareView | null;
  onChange: () => void;
}) {
  const { share, onChange } = props;
  const { message } = App.useApp();
  const told = (work: Promise<unknown>) =>
    work.then(onChange, (error) => message.error(problemOf(error).message));
  const copy = async (url: string) => {
    // Without a permission for the clipboard the address is still there to be marked.
    await navigator.clipboard.writeText(url).then(
      () => message.success('The link is in the clipboard.'),
      () => message.warning('The browser did not let it be copied: mark the address and copy it.'),
    );
  };
  if (!share)
    return (
      <button type="button" className="act" onClick={() => told(fetchJson('POST', '/api/shares', props.of))}>
        Make a link
      </button>
    );
  return (
    <span className="share-link">
      <a href={share.url} target="_blank" rel="noreferrer" className="small">
        {share.url.replace(/^https?:\/\//, '')}
      </a>
      <button type="button" className="act" onClick={() => copy(share.url)}>
        Copy
      </button>
      <button
        type="button"
        className="act quiet"
        onClick={() => told(fetchJson('DELETE', `/api/shares/${share.token}`))}
      >
        Take it back
      </button>
    </span>
  );
}
