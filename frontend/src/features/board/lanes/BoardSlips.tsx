import { sentenceOf } from '@/api/client';
import { ask, useAsked, type Placement } from '../asking';
import type { Board } from '../model';
import { LengthDialog } from './LengthDialog';
import { aimWords, Box, placingHint, StretchSlip } from './Slips';
import type { Holding } from './useHolding';
import { VerdictSlip } from './VerdictSlip';
import { WhyDialog } from './WhyDialog';

interface Props {
  board: Board;
  holding: Holding;
  onPlace: (placement: Placement) => void;
}

/** What comes and goes over the board while something is held, and what is asked before it is placed. */
export function BoardSlips({ board, holding, onPlace }: Props) {
  const { state, held, aim, placing, together, verdict, error, marks } = holding;
  const asked = useAsked();
  return (
    <>
      {held && (
        <VerdictSlip
          who={aimWords(board, aim ?? (placing ? { kind: 'lane', ...placing } : null))}
          start={placing?.start ?? null}
          several={board.days.length > 1}
          together={together}
          verdict={verdict}
          error={error ? sentenceOf(error) : null}
          at={state.mode === 'dragging' ? { x: state.x, y: state.y } : null}
          hint={state.mode === 'placing' ? placingHint(state, marks) : undefined}
        />
      )}
      {state.mode === 'stretching' && <StretchSlip seconds={state.seconds} keyboard={state.keyboard} />}
      {state.mode === 'boxing' && <Box from={state.from} to={state.to} />}
      {asked && (
        <WhyDialog
          reasons={asked.reasons}
          onSay={(because) => {
            onPlace({ ...asked.placement, because });
            ask(null);
          }}
          onClose={() => ask(null)}
        />
      )}
      <LengthDialog />
    </>
  );
}
