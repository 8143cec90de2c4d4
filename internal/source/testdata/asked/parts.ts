interface Fog { kind: 'fog'; visibility: number }
interface Delay { kind: 'delay'; minutes: number }
interface Port { code: string }
interface Pass { number: string }

export async function notices(): Promise<void> {
  const body = await (await fetch('/notices')).json(); // asks Fog[] notices within items picked
  for (const item of body.items) {
    if (item.kind === 'fog') showFog(item as Fog);
  }
}

export async function delays(): Promise<void> {
  const body = await (await fetch('/delays')).json(); // asks delays[] delays within itemsDelay[] delays within items picked
  const late = body.items.filter((i: any) => i.kind === 'delay') as Delay[];
  late.forEach(show);
}

export async function ports(): Promise<void> {
  const res = await fetch('/ports');
  if (res.status === 200) {
    const body = await res.json(); // asks Port[] ports within ports
    for (const row of body.ports) add(row as Port);
  }
}

export async function passes(): Promise<void> {
  const body = await (await fetch('/passes')).json(); // asks Pass[] passes within rows picked
  for (const row of body.rows) {
    switch (row.type) {
      case 'pass':
        keep(row as Pass);
    }
  }
}
