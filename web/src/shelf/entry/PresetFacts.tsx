import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Button, Dialog, DialogTrigger } from "react-aria-components";
import { useNavigate } from "react-router";
import styled from "styled-components";
import { wordsFor } from "../../api/client";
import { addToLook, stepKinds, useMakeLook } from "../../api/looks";
import { firstEntries } from "../../api/shelf";
import { useMay } from "../../api/session";
import type { Preset } from "../../api/types";
import { fresh } from "../../look/arrange";
import { markEdited } from "../../look/edited";
import { Primary, Secondary } from "../../kit/Button";
import { Notice } from "../../kit/Notice";
import { Menu } from "../../kit/Picker";
import { PlainList } from "../../kit/PlainList";
import { TextBox } from "../../kit/TextBox";
import { Block, Small } from "./layout";

const Steps = styled.ol`
  margin: 0;
  padding-left: 20px;
  display: grid;
  gap: 3px;
`;
const Buttons = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
`;
const Looks = styled(Dialog)`
  width: 260px;
  padding: 8px;
  display: grid;
  gap: 8px;
  outline: none;
  ul {
    max-height: 240px;
    overflow-y: auto;
  }
  li button {
    width: 100%;
    border: 0;
    background: none;
    text-align: left;
    padding: 5px 8px;
    border-radius: 5px;
    cursor: pointer;
    color: ${(p) => p.theme.tokens.ink};
    overflow-wrap: anywhere;
  }
  li button[data-hovered],
  li button[data-focus-visible] {
    background: ${(p) => p.theme.tokens.accentWash};
  }
`;

/** Looks of the person's own, by name. */
function ChooseLook({ onLook }: { onLook: (id: number) => void }) {
  const [search, setSearch] = useState("");
  const { data } = useQuery(firstEntries({ search, kinds: ["look"] }, 30));
  const looks = (data?.entries ?? []).filter((one) => one.may_change);
  return (
    <>
      <TextBox label="Find a look" hideLabel type="search" value={search} onChange={setSearch} autoFocus />
      <PlainList aria-label="Looks">
        {looks.map((one) => (
          <li key={one.id}>
            <Button onPress={() => onLook(one.id)}>{one.name}</Button>
          </li>
        ))}
      </PlainList>
      {data && looks.length === 0 && <Small>No look of yours is called so.</Small>}
    </>
  );
}

/** What a preset adds to a look, put into one, or opened on the Bench to become its next version. */
export function PresetFacts({ preset }: { preset: Preset }) {
  const { data: kinds = [] } = useQuery(stepKinds);
  const make = useMakeLook();
  const client = useQueryClient();
  const navigate = useNavigate();
  const mayDesign = useMay("design");
  const [trouble, setTrouble] = useState<unknown>(null);
  const { steps } = preset;

  async function put(id: number) {
    try {
      await addToLook(id, steps.map(fresh));
      await client.invalidateQueries({ queryKey: ["shelf"] });
      await navigate(`/bench/${String(id)}`);
    } catch (error) {
      setTrouble(error);
    }
  }
  async function edit() {
    const made = await make
      .mutateAsync({ name: `${preset.name}, on the Bench`, steps: [...steps] })
      .catch((error: unknown) => {
        setTrouble(error);
        return null;
      });
    if (!made) return;
    markEdited(made.id, preset.id);
    await navigate(`/bench/${String(made.id)}`);
  }

  return (
    <Block aria-label="Preset">
      <h2>Its steps</h2>
      <Steps>
        {steps.map((step, index) => (
          <li key={index}>{step.name || (kinds.find((kind) => kind.kind === step.kind)?.title ?? step.kind)}</li>
        ))}
      </Steps>
      {mayDesign && (
        <Buttons>
          <DialogTrigger>
            <Primary>Put into a look…</Primary>
            <Menu placement="bottom start">
              <Looks aria-label="Put into a look">
                <ChooseLook onLook={(id) => void put(id)} />
              </Looks>
            </Menu>
          </DialogTrigger>
          <Secondary isPending={make.isPending} onPress={() => void edit()}>
            Edit on the Bench
          </Secondary>
        </Buttons>
      )}
      {mayDesign && (
        <Small>
          {preset.may_change
            ? "On the Bench, choose its steps and keep them as a preset: they can become the next version of this one."
            : "On the Bench, its steps can become a preset of your own."}
        </Small>
      )}
      {trouble !== null && <Notice>{wordsFor(trouble)}</Notice>}
    </Block>
  );
}
