import { sentenceOf, urlOf } from '@/api/client';
import { Button } from '@/design/Button';
import { FileChoice } from '@/design/FileChoice';
import { Notice } from '@/design/Notice';
import { useLogo } from '../queries';

/** The company's sign, on work orders and papers. */
export function LogoField({ mark, canChange }: { mark: string; canChange: boolean }) {
  const { put, remove } = useLogo();
  const error = put.error ?? remove.error;
  return (
    <section aria-labelledby="logo" className="space-y-2">
      <h2 id="logo" className="font-semibold">
        Logo
      </h2>
      {mark ? (
        <img
          src={urlOf('/api/v1/company/logo', {}, { mark })}
          alt="The company’s logo"
          className="max-h-16 max-w-60 bg-white p-1"
        />
      ) : (
        <p className="text-sm text-ink-soft">None. It stands on printed work orders.</p>
      )}
      {error && <Notice tone="bad">{sentenceOf(error)}</Notice>}
      {canChange && (
        <div className="flex items-center gap-2">
          <FileChoice
            onFile={(file) => put.mutate(file)}
            className="rounded-sm border border-hairline px-3 py-1.5 text-sm hover:bg-wash"
          >
            {mark ? 'Another logo' : 'Choose a logo'}
          </FileChoice>
          {mark && (
            <Button rank="quiet" disabled={remove.isPending} onClick={() => remove.mutate()}>
              Remove
            </Button>
          )}
        </div>
      )}
    </section>
  );
}
