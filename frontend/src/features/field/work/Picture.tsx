import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { urlOf } from '@/api/client';
import { usePhone } from '../usePhone';

interface Props {
  id: string;
  /** Whether it has arrived at the office: then it is there also when it has left the phone. */
  here: boolean;
  words: string;
  className?: string;
}

/** Where a picture is shown from: this phone, or the office; null: neither has it. */
export function usePictureSource(id: string, here: boolean): string | null {
  const phone = usePhone().data;
  const found = useQuery({
    queryKey: ['picture', id],
    queryFn: async () => (await phone!.pictures.content(id)) ?? null,
    enabled: phone !== undefined,
    networkMode: 'always',
    staleTime: Infinity,
    gcTime: 0,
  });
  const own = useObjectUrl(found.data ?? null);
  if (own) return own;
  return found.isSuccess && here ? urlOf('/api/v1/field/pictures/{picture_id}', { picture_id: id }) : null;
}

/** A picture from this phone, or from the office. */
export function Picture({ id, here, words, className = '' }: Props) {
  const src = usePictureSource(id, here);
  if (!src)
    return (
      <p className={`grid place-items-center bg-wash text-sm text-ink-soft ${className}`}>
        Not on this phone
      </p>
    );
  return <img src={src} alt={words} className={`object-cover ${className}`} />;
}

function useObjectUrl(content: Uint8Array<ArrayBuffer> | null): string | null {
  const [url, setUrl] = useState<string | null>(null);
  useEffect(() => {
    if (!content) return;
    const made = URL.createObjectURL(new Blob([content]));
    // eslint-disable-next-line react-hooks/set-state-in-effect -- an address has to be given back when it is not shown
    setUrl(made);
    return () => {
      URL.revokeObjectURL(made);
      setUrl(null);
    };
  }, [content]);
  return url;
}
