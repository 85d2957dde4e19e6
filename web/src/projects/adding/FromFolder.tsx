import { useQuery } from "@tanstack/react-query";
import { CornerLeftUp, Folder } from "lucide-react";
import { useState } from "react";
import styled from "styled-components";
import { wordsFor } from "../../api/client";
import { mediaFolder, useTakeFromFolder, type Gaps } from "../../api/footage";
import { Secondary, WordButton } from "../../kit/Button";
import { Check } from "../../kit/Check";
import { Notice } from "../../kit/Notice";
import { MissingFrames } from "./MissingFrames";
import { Picker } from "../../kit/Picker";

const List = styled.div`
  display: grid;
  gap: 6px;
  max-height: 220px;
  overflow-y: auto;
  justify-items: start;
  svg {
    width: 14px;
    height: 14px;
  }
  small {
    color: ${(p) => p.theme.tokens.soft};
  }
`;

interface Props {
  readonly folders: readonly string[];
  readonly onTaken: (pictures: readonly number[]) => void;
}

/** What lies in a folder of the server that may be read: nothing of it is copied. */
export function FromFolder({ folders, onTaken }: Props) {
  const [name, setName] = useState(folders[0] ?? "");
  const [path, setPath] = useState("");
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const { data, error } = useQuery(mediaFolder(name, path));
  const take = useTakeFromFolder();
  const full = (file: string) => (path === "" ? file : `${path}/${file}`);
  const [gaps, setGaps] = useState<Gaps>("refuse");
  const go = (to: string) => {
    setPath(to);
    setChosen(new Set());
  };
  const mark = (file: string) => ({
    isOn: chosen.has(file),
    onChange: (on: boolean) =>
      setChosen((last) => new Set(on ? [...last, file] : [...last].filter((one) => one !== file))),
  });
  return (
    <>
      <Picker
        label="Media folder, read in place"
        value={name}
        options={folders.map((one) => ({ id: one, name: one }))}
        onChange={(one) => {
          setName(one);
          go("");
        }}
      />
      <List role="group" aria-label={path || name}>
        {path !== "" && (
          <WordButton onPress={() => go(path.split("/").slice(0, -1).join("/"))}>
            <CornerLeftUp aria-hidden /> Up from {path}
          </WordButton>
        )}
        {data?.folders.map((one) => (
          <WordButton key={one} onPress={() => go(full(one))}>
            <Folder aria-hidden /> {one}
          </WordButton>
        ))}
        {data?.sequences.map((one) => (
          <Check key={one.name} {...mark(one.name)}>
            {one.title}, frames {one.first} to {one.last}
            {one.gaps && <small> ({one.gaps} missing)</small>}
          </Check>
        ))}
        {[...(data?.clips ?? []), ...(data?.stills ?? [])].map((one) => (
          <Check key={one} {...mark(one)}>
            {one}
          </Check>
        ))}
        {data && data.others > 0 && <small>{data.others} files are neither pictures nor clips.</small>}
      </List>
      {data?.sequences.some((one) => one.gaps) && <MissingFrames value={gaps} onChange={setGaps} />}
      {(error ?? take.error) && <Notice>{wordsFor(error ?? take.error)}</Notice>}
      {take.data && take.data.left_out.length > 0 && <Notice>{take.data.left_out.join(" ; ")}</Notice>}
      <span>
        <Secondary
          isDisabled={chosen.size === 0}
          isPending={take.isPending}
          onPress={() =>
            take.mutate(
              { name, paths: [...chosen].map(full), gaps },
              {
                onSuccess: ({ pictures }) => {
                  setChosen(new Set());
                  onTaken(pictures);
                },
              },
            )
          }
        >
          Read {chosen.size} from here
        </Secondary>
      </span>
    </>
  );
}
