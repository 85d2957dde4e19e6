import { useQuery } from "@tanstack/react-query";
import { ChevronRight, GripVertical } from "lucide-react";
import { useState } from "react";
import { Button, Collection, Tree, TreeItem, TreeItemContent, useDragAndDrop } from "react-aria-components";
import styled from "styled-components";
import { wordsFor } from "../../api/client";
import { useMakeCategory, useMoveCategory, useRemoveCategory } from "../../api/order";
import { categories as categoriesQuery } from "../../api/shelf";
import { Primary, Secondary } from "../../kit/Button";
import { Notice } from "../../kit/Notice";
import { Picker } from "../../kit/Picker";
import { Sheet, SheetBody } from "../../kit/Sheet";
import { TextBox } from "../../kit/TextBox";

const Halves = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 250px;
  gap: 22px;
  align-items: start;
`;
const Branches = styled(Tree)`
  min-height: 220px;
  max-height: 420px;
  overflow-y: auto;
  outline: none;
  border: 1px solid ${(p) => p.theme.tokens.line};
  border-radius: 8px;
  padding: 4px;
  &[data-drop-target] {
    background: ${(p) => p.theme.tokens.accentWash};
  }
`;
const Branch = styled(TreeItem)`
  outline: none;
  border-radius: 5px;
  cursor: pointer;
  display: flex;
  align-items: center;
  gap: 4px;
  min-height: 30px;
  padding-left: calc((var(--tree-item-level) - 1) * 18px + 4px);
  &[data-selected] {
    background: ${(p) => p.theme.tokens.accentWash};
    font-weight: 600;
  }
  &[data-focus-visible] {
    box-shadow: inset 0 0 0 2px ${(p) => p.theme.tokens.accent};
  }
  &[data-drop-target] {
    box-shadow: inset 0 0 0 2px ${(p) => p.theme.tokens.accent};
    background: ${(p) => p.theme.tokens.accentWash};
  }
  button {
    display: grid;
    place-items: center;
    width: 22px;
    height: 22px;
    border: 0;
    padding: 0;
    background: none;
    color: ${(p) => p.theme.tokens.soft};
    cursor: pointer;
  }
  button[slot="drag"] {
    margin-left: auto;
    cursor: grab;
  }
  &[data-expanded] button[slot="chevron"] svg {
    transform: rotate(90deg);
  }
  svg {
    width: 14px;
    height: 14px;
  }
`;
const Side = styled.div`
  display: grid;
  gap: 12px;
  form {
    display: grid;
    gap: 8px;
  }
  h3 {
    font-weight: 600;
    overflow-wrap: anywhere;
  }
`;

interface Node {
  readonly path: string;
  readonly name: string;
  readonly below: readonly Node[];
}

/** Paths as a tree; those above a path are in the list too. */
function treeOf(paths: readonly string[], above = ""): Node[] {
  const inside = above ? `${above}/` : "";
  return paths
    .filter((path) => path.startsWith(inside) && !path.slice(inside.length).includes("/") && path !== above)
    .map((path) => ({ path, name: path.slice(inside.length), below: treeOf(paths, path) }));
}
const aboveOf = (path: string) => path.slice(0, Math.max(0, path.lastIndexOf("/")));
const nameOf = (path: string) => path.slice(path.lastIndexOf("/") + 1);
const TOP = "/";

function BranchOf({ node }: { node: Node }) {
  return (
    <Branch id={node.path} textValue={node.name}>
      <TreeItemContent>
        {({ hasChildItems }) => (
          <>
            {hasChildItems ? (
              <Button slot="chevron">
                <ChevronRight aria-hidden />
              </Button>
            ) : (
              <span style={{ width: 22 }} />
            )}
            {node.name}
            <Button slot="drag" aria-label={`Move ${node.name}`}>
              <GripVertical aria-hidden />
            </Button>
          </>
        )}
      </TreeItemContent>
      <Collection items={node.below.map((one) => ({ ...one, id: one.path }))}>
        {(one) => <BranchOf node={one} />}
      </Collection>
    </Branch>
  );
}

/** The tree: dragged by hand or by keys, renamed, made, taken away. Everything in a category stays in it. */
export function CategoriesSheet({ onClose }: { onClose: () => void }) {
  const { data } = useQuery(categoriesQuery);
  const paths = data ?? [];
  const move = useMoveCategory();
  const make = useMakeCategory();
  const remove = useRemoveCategory();
  const [chosen, setChosen] = useState<string | null>(null);
  const [name, setName] = useState("");
  const [above, setAbove] = useState(TOP);
  const [folded, setFolded] = useState<ReadonlySet<string>>(new Set());
  const [fresh, setFresh] = useState("");
  const { dragAndDropHooks } = useDragAndDrop({
    getItems: (keys) => [...keys].map((key) => ({ "text/plain": String(key) })),
    getDropOperation: (target) => (target.type === "root" || target.dropPosition === "on" ? "move" : "cancel"),
    onItemDrop: (event) => {
      if (event.isInternal) void readDropped(event.items).then((path) => path && put(path, String(event.target.key)));
    },
    onRootDrop: (event) => void readDropped(event.items).then((path) => path && put(path, "")),
  });
  const inside = chosen && paths.includes(chosen) ? chosen : null;
  const free = paths.filter((one) => !inside || (one !== inside && !one.startsWith(`${inside}/`)));
  const trouble = move.error ?? make.error ?? remove.error;

  function clear() {
    move.reset();
    make.reset();
    remove.reset();
  }
  function put(path: string, into: string, called = nameOf(path)) {
    if (aboveOf(path) === into && nameOf(path) === called) return;
    clear();
    move.mutate({ path, above: into, name: called }, { onSuccess: () => choose(into ? `${into}/${called}` : called) });
  }
  function choose(path: string | null) {
    clear();
    setChosen(path);
    setName(path ? nameOf(path) : "");
    setAbove((path && aboveOf(path)) || TOP);
  }

  return (
    <Sheet title="Categories" isOpen onClose={onClose} width="680px">
      <SheetBody>
        <p>Drag one into another. What is in a category goes along with it.</p>
        <Halves>
          <Branches
            aria-label="Categories"
            selectionMode="single"
            disallowEmptySelection
            selectedKeys={inside ? [inside] : []}
            onSelectionChange={(keys) => choose(keys === "all" ? null : ([...keys].map(String)[0] ?? null))}
            expandedKeys={paths.filter((path) => !folded.has(path))}
            onExpandedChange={(keys) => setFolded(new Set(paths.filter((path) => !keys.has(path))))}
            items={treeOf(paths).map((one) => ({ ...one, id: one.path }))}
            dragAndDropHooks={dragAndDropHooks}
            renderEmptyState={() => "There is no category yet."}
          >
            {(node) => <BranchOf node={node as Node} />}
          </Branches>
          <Side>
            {trouble && <Notice>{wordsFor(trouble)}</Notice>}
            {inside && (
              <form
                onSubmit={(event) => {
                  event.preventDefault();
                  put(inside, above === TOP ? "" : above, name.trim());
                }}
              >
                <h3>{inside}</h3>
                <TextBox label="Name" value={name} onChange={setName} maxLength={80} />
                <Picker
                  label="Inside"
                  value={above}
                  options={[{ id: TOP, name: "Nothing: at the top" }, ...free.map((one) => ({ id: one, name: one }))]}
                  onChange={setAbove}
                />
                <Primary type="submit" isDisabled={name.trim() === ""} isPending={move.isPending}>
                  Rename or move
                </Primary>
                <Secondary
                  onPress={() => {
                    clear();
                    remove.mutate(inside, { onSuccess: () => choose(null) });
                  }}
                >
                  Take it away
                </Secondary>
              </form>
            )}
            <form
              onSubmit={(event) => {
                event.preventDefault();
                clear();
                make.mutate(inside ? `${inside}/${fresh}` : fresh, { onSuccess: () => setFresh("") });
              }}
            >
              <TextBox
                label={inside ? `A new one in ${nameOf(inside)}` : "A new one"}
                value={fresh}
                onChange={setFresh}
                maxLength={80}
              />
              <Secondary type="submit" isDisabled={fresh.trim() === ""} isPending={make.isPending}>
                Make it
              </Secondary>
            </form>
          </Side>
        </Halves>
      </SheetBody>
    </Sheet>
  );
}

async function readDropped(items: readonly { kind: string; getText?: (type: string) => Promise<string> }[]) {
  const [first] = items;
  return first?.kind === "text" ? ((await first.getText?.("text/plain")) ?? null) : null;
}
