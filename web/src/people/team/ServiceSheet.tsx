import { useState } from "react";
import { wordsFor } from "../../api/client";
import { useAddService } from "../../api/team";
import type { Role } from "../../api/types";
import { Primary, Secondary } from "../../kit/Button";
import { Notice } from "../../kit/Notice";
import { Picker } from "../../kit/Picker";
import { Sheet, SheetBody, SheetFoot } from "../../kit/Sheet";
import { TextBox } from "../../kit/TextBox";
import { ROLES } from "./words";

/** An account for a program. */
export function ServiceSheet({ onClose, onAdded }: { onClose: () => void; onAdded: (name: string) => void }) {
  const [name, setName] = useState("");
  const [fullName, setFullName] = useState("");
  const [role, setRole] = useState<Role>("viewer");
  const add = useAddService();
  return (
    <Sheet title="Add a service" isOpen onClose={onClose} width="460px">
      <SheetBody>
        <p>A program that comes by tokens and has no password: a render farm, a watch folder, a nightly sync.</p>
        <TextBox label="Short name, in the activity" value={name} onChange={setName} maxLength={150} autoFocus />
        <TextBox label="Name as it is shown" value={fullName} onChange={setFullName} maxLength={120} />
        <Picker
          label="May"
          value={role}
          options={ROLES.filter(([id]) => id !== "admin").map(([id, note]) => ({ id, name: id, note }))}
          onChange={(id) => setRole(id as Role)}
        />
        {add.error && <Notice>{wordsFor(add.error)}</Notice>}
      </SheetBody>
      <SheetFoot>
        <Secondary onPress={onClose}>Leave it</Secondary>
        <Primary
          isDisabled={!name.trim()}
          isPending={add.isPending}
          onPress={() =>
            add.mutate(
              { name: name.trim(), full_name: fullName.trim(), role },
              { onSuccess: () => onAdded(name.trim()) },
            )
          }
        >
          Add it
        </Primary>
      </SheetFoot>
    </Sheet>
  );
}
