import { useQuery } from "@tanstack/react-query";
import { own as ownQuery } from "../api/own";
import { sizeOf } from "../kit/amounts";
import { Notice } from "../kit/Notice";

/** From which share on it is told, as the server has it too. */
const NEARLY = 0.9;

/** Beside where files are brought in: that there is little room left for one's own, or none for these. bytes: of what was chosen */
export function RoomLeft({ bytes = 0 }: { bytes?: number }) {
  const { data: own } = useQuery(ownQuery);
  if (!own || own.most === null || own.room + bytes < NEARLY * own.most) return null;
  const told = `Your files take ${sizeOf(own.room)} of the ${sizeOf(own.most)} there are`;
  if (own.room + bytes > own.most)
    return (
      <Notice>
        {told}
        {bytes > 0 ? `; for these ${sizeOf(bytes)} there is no room` : ""}. What is deleted makes room after 30 days; an
        admin can allow more.
      </Notice>
    );
  return (
    <Notice tone="word">
      {told}
      {bytes > 0 ? `, with these ${sizeOf(own.room + bytes)}` : ""}.
    </Notice>
  );
}
