import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api, data } from '@/api/client';
import type {
  SchemaChargingIn,
  SchemaCustomerTermsIn,
  SchemaItemIn,
  SchemaItemOut,
  SchemaNamedDiscountIn,
  SchemaNamedDiscountOut,
  SchemaPriceListIn,
  SchemaPriceListOut,
  SchemaRaiseIn,
  SchemaSetPriceIn,
  SchemaTaxCodeIn,
  SchemaTaxCodeOut,
} from '@/api/types';
import { useCompany } from '@/features/company';

const KEY = ['pricing'] as const;

/** The company's currency; euros until it is known. */
export const useCurrency = () => useCompany().data?.currency ?? 'EUR';

export const useUnits = () =>
  useQuery({
    queryKey: [...KEY, 'units'],
    queryFn: () => data(api.GET('/api/v1/pricing/units')),
    staleTime: Infinity,
  });

/** How things are taxed, retired codes too. */
export const useTaxCodes = () =>
  useQuery({
    queryKey: [...KEY, 'tax-codes'],
    queryFn: () => data(api.GET('/api/v1/pricing/tax-codes', { params: { query: { retired: true } } })),
  });

/** The price list, retired items too. */
export const useItems = () =>
  useQuery({
    queryKey: [...KEY, 'items'],
    queryFn: () => data(api.GET('/api/v1/pricing/items', { params: { query: { retired: true } } })),
  });

export const usePriceLists = () =>
  useQuery({ queryKey: [...KEY, 'lists'], queryFn: () => data(api.GET('/api/v1/pricing/lists')) });

/** Prices of a list that hold today or will. */
export const usePricesOf = (listId: number) =>
  useQuery({
    queryKey: [...KEY, 'prices', listId],
    queryFn: () => data(api.GET('/api/v1/pricing/prices', { params: { query: { list_id: listId } } })),
  });

/** A change of prices; whatever is shown of them is asked for again. */
function useChange<Asked, Answer>(mutationFn: (asked: Asked) => Promise<Answer>) {
  const client = useQueryClient();
  return useMutation({ mutationFn, onSuccess: () => client.invalidateQueries({ queryKey: KEY }) });
}

export const useKeepItem = (row: SchemaItemOut | null) =>
  useChange((body: SchemaItemIn) =>
    data(
      row
        ? api.PUT('/api/v1/pricing/items/{item_id}', {
            params: { path: { item_id: row.id } },
            body: { ...body, version: row.version },
          })
        : api.POST('/api/v1/pricing/items', { body }),
    ),
  );

export const useKeepTaxCode = (row: SchemaTaxCodeOut | null) =>
  useChange((body: SchemaTaxCodeIn) =>
    data(
      row
        ? api.PUT('/api/v1/pricing/tax-codes/{code_id}', {
            params: { path: { code_id: row.id } },
            body: { ...body, version: row.version },
          })
        : api.POST('/api/v1/pricing/tax-codes', { body }),
    ),
  );

export const useKeepList = (row: SchemaPriceListOut | null) =>
  useChange((body: SchemaPriceListIn) =>
    data(
      row
        ? api.PUT('/api/v1/pricing/lists/{list_id}', {
            params: { path: { list_id: row.id } },
            body: { ...body, version: row.version },
          })
        : api.POST('/api/v1/pricing/lists', { body }),
    ),
  );

export const useSetPrice = () =>
  useChange((body: SchemaSetPriceIn) => data(api.POST('/api/v1/pricing/prices', { body })));

export const useEndPrice = () =>
  useChange((id: number) =>
    data(api.DELETE('/api/v1/pricing/prices/{price_id}', { params: { path: { price_id: id } } })),
  );

/** Change a list by percent or amount: told first, then done. */
export const useRaise = () =>
  useChange((body: SchemaRaiseIn) => data(api.POST('/api/v1/pricing/raise', { body })));

/** Discounts the company gives by name, those that are over too. */
export const useDiscounts = () =>
  useQuery({
    queryKey: [...KEY, 'discounts'],
    queryFn: () => data(api.GET('/api/v1/pricing/discounts', { params: { query: { retired: false } } })),
  });

export const useKeepDiscount = (row: SchemaNamedDiscountOut | null) =>
  useChange((body: SchemaNamedDiscountIn) =>
    data(
      row
        ? api.PUT('/api/v1/pricing/discounts/{discount_id}', {
            params: { path: { discount_id: row.id } },
            body: { ...body, version: row.version },
          })
        : api.POST('/api/v1/pricing/discounts', { body }),
    ),
  );

/** How labour and journeys are charged. */
export const useCharging = () =>
  useQuery({ queryKey: [...KEY, 'charging'], queryFn: () => data(api.GET('/api/v1/pricing/charging')) });

export const useKeepCharging = () =>
  useChange((body: SchemaChargingIn) => data(api.PUT('/api/v1/pricing/charging', { body })));

/** What a customer pays by. */
export const useTerms = (customerId: number) =>
  useQuery({
    queryKey: [...KEY, 'terms', customerId],
    queryFn: () =>
      data(api.GET('/api/v1/pricing/terms/{customer_id}', { params: { path: { customer_id: customerId } } })),
  });

export const useKeepTerms = (customerId: number) =>
  useChange((body: SchemaCustomerTermsIn) =>
    data(
      api.PUT('/api/v1/pricing/terms/{customer_id}', { params: { path: { customer_id: customerId } }, body }),
    ),
  );

/** A customer's own prices that hold today or will. */
export const useOwnPrices = (customerId: number) =>
  useQuery({
    queryKey: [...KEY, 'prices', 'customer', customerId],
    queryFn: () =>
      data(api.GET('/api/v1/pricing/prices', { params: { query: { customer_id: customerId } } })),
  });
