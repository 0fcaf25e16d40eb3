import { cookies } from 'next/headers';
import { Bank } from '@/ui/shared/bank';
import { lightOf } from '@/ui/shared/light';
import { PageLink } from '@/ui/shared/page-link';
import { Verdict } from '@/ui/shared/verdict';

export default async function NotFound() {
  return (
    <>
      <Bank light={lightOf((await cookies()).get('light')?.value)} />
      <main>
        <Verdict kind="warn" sentence="There is nothing at this address." detail="It may have been deleted.">
          <PageLink className="act main" href="/">
            All lessons
          </PageLink>
        </Verdict>
      </main>
    </>
  );
}
