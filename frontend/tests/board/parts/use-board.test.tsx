import { screen } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { useBoard } from '@/features/board/lanes/useBoard';
import { draw, TODAY } from '../../drawn';
import { askedOf, Refusal, serve } from '../../server';
import { board, INES, visit } from '../worlds';

const HEADS = 'GET /api/v1/board/lanes';
const PART = 'GET /api/v1/board';

function Board() {
  const { board, error } = useBoard(TODAY, 1);
  if (error) return <p>not there</p>;
  return <p>{board ? `${board.lanes.length} lanes, ${board.visits.length} visits` : 'on its way'}</p>;
}

describe('a board put together', () => {
  it('has the lanes and what stands on them', async () => {
    serve({ [HEADS]: [INES], [PART]: board([visit(1), visit(2)], [INES]) });
    await draw(<Board />);
    expect(await screen.findByText('1 lanes, 2 visits')).toBeVisible();
  });

  it('is there without anybody on it: nothing more is waited for', async () => {
    serve({ [HEADS]: [] });
    await draw(<Board />);
    expect(await screen.findByText('0 lanes, 0 visits')).toBeVisible();
    expect(askedOf(PART)).toEqual([]);
  });

  it('says that it could not be fetched', async () => {
    serve({
      [HEADS]: () => {
        throw new Refusal(503, { code: 'busy', title: 'The server is busy.' });
      },
    });
    await draw(<Board />);
    expect(await screen.findByText('not there')).toBeVisible();
  });
});
