/** Which constructions stand on the floor whatever is chosen. */

import { memo } from "react";
import { Menu, MenuTrigger } from "react-aria-components";

import { DRAWN, type Drawn, useDrawn } from "../../floor/drawn";
import { Drop, Item, Opener } from "../../ui/menu";

export const DrawnMenu = memo(function DrawnMenu() {
  const { drawn, setDrawn } = useDrawn();
  return (
    <MenuTrigger>
      <Opener>Draw also ▾</Opener>
      <Drop>
        <Menu
          aria-label="Constructions"
          selectionMode="multiple"
          selectedKeys={drawn}
          onSelectionChange={(keys) =>
            setDrawn(keys === "all" ? (Object.keys(DRAWN) as Drawn[]) : ([...keys] as Drawn[]))
          }
        >
          {(Object.entries(DRAWN) as [Drawn, string][]).map(([key, name]) => (
            <Item key={key} id={key}>
              {name}
            </Item>
          ))}
        </Menu>
      </Drop>
    </MenuTrigger>
  );
});
