/** What of the catalogue is shown, and how. The address says it, so that a link or the way back shows the same. */
import { keepPreviousData, useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { useCallback, useDeferredValue, useState } from "react";
import { useSearchParams } from "react-router";
import { chosenEntries } from "../../api/boards";
import { useLive } from "../../api/order";
import { counts as countsQuery, entries as entriesQuery, wallAlike } from "../../api/shelf";
import { usePictureChoice } from "../../media/usePictureChoice";
import { readAddress, writeAddress, type Seen } from "./address";

const NO_WORDS: Readonly<Record<string, number>> = {};

export function useShelf() {
  const [address, setAddress] = useSearchParams();
  const seen = readAddress(address);
  const [search, setSearch] = useState(seen.wanted.search);
  const asked = useDeferredValue(search);
  const wanted = { ...seen.wanted, search: asked };
  const { pictures, chosen, choose } = usePictureChoice(seen.picture);
  useLive();
  const listed = useInfiniteQuery({ ...entriesQuery(wanted), placeholderData: keepPreviousData });
  const { data: counts } = useQuery({ ...countsQuery(wanted), placeholderData: keepPreviousData });
  const { data: alike, error: noLikeness } = useQuery(wallAlike(seen.like));
  const { data: likeWhat } = useQuery(chosenEntries(seen.like === null ? [] : [seen.like]));
  const { data, hasNextPage, isFetchingNextPage, fetchNextPage } = listed;

  const show = (next: Partial<Seen>) =>
    setAddress(writeAddress({ ...seen, wanted, ...next }), {
      replace: "wanted" in next && next.wanted?.search !== seen.wanted.search,
    });
  const more = useCallback(() => {
    if (seen.like === null && hasNextPage && !isFetchingNextPage) void fetchNextPage();
  }, [seen.like, hasNextPage, isFetchingNextPage, fetchNextPage]);

  return {
    seen,
    wanted,
    /** As it stands in the field; what is listed follows when there is time. */
    search,
    asked,
    pictures,
    chosen,
    counts,
    entries:
      seen.like === null ? (data?.pages.flatMap((page) => page.entries) ?? []) : (alike ?? []).map((one) => one.entry),
    /** The list has words close to what was asked for, and none that are it. */
    isNear: data?.pages[0]?.near ?? false,
    /** Nothing has all of the words; how many entries have each. */
    some: data?.pages[0]?.some ?? NO_WORDS,
    likeName: likeWhat?.[0]?.name ?? "it",
    error: listed.error ?? noLikeness,
    isEmpty: !listed.isPending && !listed.error,
    isFetchingMore: isFetchingNextPage,
    more,
    show,
    find: (text: string) => {
      setSearch(text);
      show({ wanted: { ...wanted, search: text }, like: null });
    },
    lookOn: (picture: number) => {
      choose(picture);
      show({ picture });
    },
    /** Everything, as the Shelf is at first. */
    clear: () => setAddress({}),
    pack: Number(address.get("pack")) || null,
  };
}

export type ShelfShown = ReturnType<typeof useShelf>;
