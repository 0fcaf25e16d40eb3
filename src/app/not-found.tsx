import { cookies } from 'next/headers';
import { Bank } from '@/ui/shared/bank';
import { ButtonLink } from '@/ui/shared/button-link';
import { lightOf } from '@/ui/shared/light';
import { Verdict } from '@/ui/shared/verdict';

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
