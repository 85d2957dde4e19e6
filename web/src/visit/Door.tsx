import { useState } from "react";
import { wordsFor } from "../api/client";
import type { Door as DoorTold } from "../api/types";
import { useComeIn } from "../api/visit";
import { Primary } from "../kit/Button";
import { Notice } from "../kit/Notice";
import { OnPlate } from "../kit/Plate";
import { TextBox } from "../kit/TextBox";

const shown: Record<DoorTold["shows"], string> = {
  board: "some looks beside each other",
  gallery: "some looks",
  wall: "the pictures of a project",
};

/** Where a link for guests leads first: one says one's name, and the password where there is one. */
export function Door({ code, door }: { code: string; door: DoorTold }) {
  const comeIn = useComeIn(code);
  const [name, setName] = useState("");
  const [password, setPassword] = useState("");
  return (
    <OnPlate wide title={door.studio || "Saucer"} onSubmit={() => comeIn.mutate({ name, password })}>
      <p>
        <bdi>{door.by}</bdi> shows you {shown[door.shows]}, until {door.until}.
      </p>
      <TextBox
        label="Your name: what you say is told with it"
        value={name}
        onChange={setName}
        autoComplete="name"
        maxLength={80}
        autoFocus
      />
      {door.asks_password && (
        <TextBox
          label="Password that you were given"
          type="password"
          value={password}
          onChange={setPassword}
          maxLength={100}
        />
      )}
      {comeIn.error && <Notice>{wordsFor(comeIn.error)}</Notice>}
      <Primary
        type="submit"
        isDisabled={name.trim() === "" || (door.asks_password && password === "")}
        isPending={comeIn.isPending}
      >
        Look
      </Primary>
    </OnPlate>
  );
}
