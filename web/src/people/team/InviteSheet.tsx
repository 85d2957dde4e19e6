import { useState } from "react";
import { wordsFor } from "../../api/client";
import { useInvite } from "../../api/team";
import type { Role } from "../../api/types";
import { Primary, Secondary } from "../../kit/Button";
import { Notice } from "../../kit/Notice";
import { Picker } from "../../kit/Picker";
import { Sheet, SheetBody, SheetFoot } from "../../kit/Sheet";
import { TextBox } from "../../kit/TextBox";
import { LinkShown } from "./LinkShown";
import { ROLES } from "./words";

/** Somebody new, by a link that works once. */
export function InviteSheet({ mails, onClose }: { mails: boolean; onClose: () => void }) {
  const [name, setName] = useState("");
  const [email, setEmail] = useState("");
  const [role, setRole] = useState<Role>("designer");
  const invite = useInvite();
  return (
    <Sheet title="Invite somebody" isOpen onClose={onClose} width="460px">
      <SheetBody>
        {invite.data ? (
          <LinkShown link={invite.data} />
        ) : (
          <>
            <TextBox label="Name" value={name} onChange={setName} maxLength={120} autoFocus />
            <TextBox
              label={mails ? "Mail address: the link is sent there" : "Mail address, if you like"}
              value={email}
              onChange={setEmail}
            />
            <Picker
              label="May"
              value={role}
              options={ROLES.map(([id, note]) => ({ id, name: id, note }))}
              onChange={(id) => setRole(id as Role)}
            />
            {invite.error && <Notice>{wordsFor(invite.error)}</Notice>}
          </>
        )}
      </SheetBody>
      <SheetFoot>
        {invite.data ? (
          <Primary onPress={onClose}>Done</Primary>
        ) : (
          <>
            <Secondary onPress={onClose}>Leave it</Secondary>
            <Primary
              isPending={invite.isPending}
              onPress={() => invite.mutate({ role, full_name: name.trim(), email: email.trim() })}
            >
              Make the link
            </Primary>
          </>
        )}
      </SheetFoot>
    </Sheet>
  );
}
