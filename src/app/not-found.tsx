import { cookies } from 'next/headers';
import { lightOf } from '@/ui/look/light';
import { Bank } from '@/ui/page/bank';
import { ButtonLink } from '@/ui/page/button-link';
import { Verdict } from '@/ui/page/verdict';

export default async function NotFound() {
  return (
    <>
      {/* The page's own metadata is lost where a layout found nothing. */}
      <title>Not found · Mellow Otter</title>
      <Bank light={lightOf((await cookies()).get('light')?.value)} />
      <main>
        <h1 className="sr-only">Not found</h1>
        <Verdict kind="warn" sentence="There is nothing at this address." detail="It may have been deleted.">
          <ButtonLink type="primary" href="/">
            All lessons
          </ButtonLink>
        </Verdict>
      </main>
    </>
  );
}
