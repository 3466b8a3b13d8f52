/** What the bench's own instruments show, beside the sensors, after these orders. */
export async function instruments(orders: readonly object[] = []) {
  const base = process.env['FRUSTUM_INSTRUMENTS_URL']!;
  for (const order of orders)
    await fetch(`${base}/hands`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(order),
    });
  return (await (await fetch(`${base}/now`)).json()) as {
    thermometer: { celsius: number };
    photometer: { chlorine_mg_l: number; nitrate_n_mg_l: number };
    barometer: { hpa: number };
    titration: { oxygen_mg_l: number };
  };
}
