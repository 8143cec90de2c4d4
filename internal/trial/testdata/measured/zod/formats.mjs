import {z} from 'zod'; import {z as z3} from 'zod3';
const texts=["x","","c12345678","cABC-12345678","C12345678a","https://saltmere.example"," https://saltmere.example ","http:x","mailto:a","saltmere.example","V1StGXR8_Z5jdHi6B-myT","V1StGXR8 Z5jdHi6B-myT","9m4e2mr0ui3e8a215n4g","0ujsswThIGTUYm2K8FjOOfYtY1K","+4915112345678","4915112345678","aGVsbG8=","aGVsbG8","192.168.0.1","192.168.0.256","10.0.0.0/8","10.0.0.0/33","01ARZ3NDEKTSV4RRFFQ69G5FAV"];
for (const n of ['url','cuid','nanoid','xid','ksuid','e164','base64','ipv4','cidrv4','ulid']) for (const t of texts) {
  let r=z.object({v:z[n]()}).safeParse({v:t}); let r2=z3.string()[n]?z3.object({v:z3.string()[n]()}).safeParse({v:t}):null;
  console.log([n,t,r.success?'ok':r.error.issues[0].code+': '+r.error.issues[0].message, r2?(r2.success?'ok':r2.error.issues[0].code+': '+r2.error.issues[0].message):'-'].join('\t'));
}
