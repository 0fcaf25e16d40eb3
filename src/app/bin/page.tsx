import { cookies } from 'next/headers';
import { listBin } from '@/server/maintenance/bin';
import { BinPage } from '@/ui/bin/bin-page';
import { lightOf } from '@/ui/look/light';
import { Bank } from '@/ui/page/bank';

export const dynamic = 'force-dynamic';
export const metadata = { title: 'Bin' };

export default async function Page() {
  const [entries, jar] = await Promise.all([listBin(), cookies()]);
  return (
    <>
      <Bank light={lightOf(jar.get('light')?.value)} title={<h1>Bin</h1>} />
      <BinPage entries={entries} />
    </>
  );
}
