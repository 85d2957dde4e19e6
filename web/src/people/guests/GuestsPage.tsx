import { useQuery } from "@tanstack/react-query";
import { guestLinks } from "../../api/guests";
import { useMay } from "../../api/session";
import { GuestLinks } from "../../guests/GuestLinks";
import { GuestVerdicts, useGuestVerdicts } from "../../guests/GuestVerdicts";
import { Part, Room, RoomHead, Rooms } from "../Rooms";

/** Every link that one has given to people without an account, for curators everybody's; and what guests say. */
export function GuestsPage() {
  const curates = useMay("curate");
  const { data: links } = useQuery(guestLinks({}));
  const said = useGuestVerdicts({});
  return (
    <Rooms>
      <Room>
        <RoomHead>
          <h1>Guests</h1>
          {curates && <p>the links of everybody</p>}
        </RoomHead>
        {links?.length === 0 && (
          <Part>
            <p>
              People without an account can be shown a board, a project or chosen entries, by a link that ends: press{" "}
              <i>Show to guests</i> on a board, on a project, or on the Shelf once something is chosen. What they say
              comes back to the entry or the shot.
            </p>
          </Part>
        )}
        <GuestLinks of={{}} named />
        {said.length > 0 && (
          <Part aria-label="What guests say" style={{ marginTop: 20 }}>
            <h2>What guests say</h2>
            <GuestVerdicts of={{}} named />
          </Part>
        )}
      </Room>
    </Rooms>
  );
}
