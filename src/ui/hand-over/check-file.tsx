import { Button } from 'antd';
import { useState } from 'react';
import { bytesText } from '@/core/base/figures';
import { Problem, ProblemError, problemOf } from '@/core/base/problem';
import type { Destination } from '@/core/destination/destination';
import { checkRules, type MeasuredFile } from '@/core/destination/rules';
import { FileButton } from '../fields/file-button';
import { useDroppedFile } from '../wire/use-dropped-file';
import { RulesList } from './rules-list';

type Checked = { name: string; measured: MeasuredFile | null; problem: Problem | null };

/** Any file of this computer against the rules of the chosen place: dropped anywhere on the page, or chosen. */
export function CheckFile({ destination }: { destination: Destination }) {
  const [checked, setChecked] = useState<Checked | null>(null);
  const check = async (file: File) => {
    setChecked({ name: file.name, measured: null, problem: null });
    try {
      setChecked({ name: file.name, measured: await measured(file), problem: null });
    } catch (error) {
      setChecked({ name: file.name, measured: null, problem: problemOf(error) });
    }
  };
  const dragged = useDroppedFile((file) => void check(file));
  const rules = checked?.measured ? checkRules(destination, checked.measured) : [];
  return (
    <section className={dragged ? 'check-file dragged' : 'check-file'} aria-label="Check a file">
      <div className="row">
        <span className="grow">
          {checked ? (
            <Outcome of={checked} destination={destination} rules={rules} />
          ) : (
            <span className="mute">
              Does another file meet “{destination.name}”? Drop it here or choose it. It is checked, not kept.
            </span>
          )}
        </span>
        <FileButton
          label="Check a file"
          field="File to check"
          accept="video/*,audio/*,.mkv,.mov"
          onFile={check}
        />
        {checked && (
          <Button type="text" onClick={() => setChecked(null)}>
            Close
          </Button>
        )}
      </div>
      {checked?.measured && <RulesList rules={rules} />}
    </section>
  );
}

type OutcomeProps = { of: Checked; destination: Destination; rules: ReturnType<typeof checkRules> };

function Outcome({ of: { name, measured, problem }, destination, rules }: OutcomeProps) {
  const broken = rules.filter(({ met }) => !met).length;
  return (
    <>
      <b>{name}</b>{' '}
      {problem ? (
        <span role="alert">
          {problem.message} {problem.hint}
        </span>
      ) : measured ? (
        <span role="status">
          {bytesText(measured.bytes)}, for “{destination.name}”:{' '}
          {broken === 0 ? `all ${rules.length} rules met.` : `${broken} of ${rules.length} rules not met.`}
        </span>
      ) : (
        <span role="status">is being measured …</span>
      )}
    </>
  );
}

async function measured(file: File): Promise<MeasuredFile> {
  const response = await fetch('/api/check', { method: 'POST', body: file });
  const data: unknown = await response.json();
  if (response.ok) return data as MeasuredFile;
  throw new ProblemError(Problem.parse(data));
}
