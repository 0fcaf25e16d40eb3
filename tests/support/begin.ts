import { PRACTICE_RIG } from '@/core/rig/rig';

/** New lessons begin with the practice rig in every test, and not with what the test before has used last. */
export default async function begin(): Promise<void> {
  const base = `${process.env.BASE_URL}/api/rigs`;
  const send = async (method: string, url: string, body: object) => {
    const headers = { 'content-type': 'application/json' };
    const answer = await fetch(url, { method, headers, body: JSON.stringify(body) });
    return { ok: answer.ok, json: await answer.json() };
  };
  const name = 'Practice';
  const made = await send('POST', base, { name, rig: PRACTICE_RIG });
  const known = await (await fetch(base)).json();
  const id = made.ok ? made.json.id : known.find((rig: { name: string }) => rig.name === name)?.id;
  const set = await send('PATCH', `${base}/${id}`, { rig: PRACTICE_RIG, isDefault: true });
  if (!set.ok) throw new Error(`The tests’ rig was not taken: ${JSON.stringify(set.json)}`);
}
