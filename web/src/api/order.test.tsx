import { QueryClient, QueryClientProvider, useQuery } from "@tanstack/react-query";
import { act, render, screen, waitFor } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";
import { serve } from "../testing";
import { useLive } from "./order";
import { tags } from "./shelf";

function Names() {
  useLive();
  const { data } = useQuery(tags);
  return <p>{data?.map((one) => one.name).join(", ")}</p>;
}

describe("what others do", () => {
  it("comes into sight once the stamp is another, and nothing is fetched anew while it is the same", async () => {
    vi.useFakeTimers({ shouldAdvanceTime: true });
    let stamp = "1";
    let names = ["night"];
    const sent = serve(({ path }) => ({
      body: path.endsWith("/stamp") ? { stamp } : names.map((name) => ({ name, count: 1 })),
    }));
    const client = new QueryClient();
    render(
      <QueryClientProvider client={client}>
        <Names />
      </QueryClientProvider>,
    );
    await screen.findByText("night");
    const lists = () => sent.filter((one) => one.path.endsWith("/tags")).length;
    await act(() => vi.advanceTimersByTimeAsync(9000));
    expect(sent.filter((one) => one.path.endsWith("/stamp")).length).toBeGreaterThanOrEqual(2);
    expect(lists()).toBe(1);
    [stamp, names] = ["2", ["night", "rain"]];
    await act(() => vi.advanceTimersByTimeAsync(4500));
    await waitFor(() => screen.getByText("night, rain"));
    expect(lists()).toBe(2);
  });
});
