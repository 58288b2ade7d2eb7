#include "report/field_sheet.h"

namespace ts::report {

std::string_view fieldSheetStyle()
{
    return R"css(
:root{color-scheme:light}
*{box-sizing:border-box}
body{margin:0;background:#fff;color:#000;font:18px/1.35 sans-serif}
main{max-width:640px;margin:0 auto;padding:8px}
h1{font-size:18px;margin:4px 0}
.supply{border:3px solid #000;padding:8px;font-weight:700}
.live{background:repeating-linear-gradient(135deg,#000 0 6px,#fff 6px 12px);padding:8px}
.live b{display:block;background:#fff;padding:6px;border:3px solid #000}
.look{font-size:24px;font-weight:700;margin:12px 0}
.how{margin:8px 0;padding-left:24px}
.verdict{font-weight:700;border:3px solid #000;padding:8px;margin:8px 0}
.small{font-size:15px}
button,input,textarea{font:inherit;min-height:48px;width:100%;margin:4px 0;border:2px solid #000;border-radius:4px;
background:#fff;color:#000;padding:8px}
button{font-weight:700;text-align:left}
button:disabled{border-style:dashed;color:#444}
.row{display:flex;gap:8px}
.row>*{flex:1;min-width:0}
textarea{min-height:120px}
label{display:block;margin:4px 0}
)css";
}

std::string_view fieldSheetScript()
{
    return R"js(
"use strict";
const plan=JSON.parse(document.getElementById("plan").textContent);
const key="sheet-"+plan.circuit;
let state={who:"",instrument:"",until:"",at:0,entries:[]};
try{const kept=JSON.parse(localStorage.getItem(key));if(kept&&Array.isArray(kept.entries))state=kept;}catch(e){}
const root=document.getElementById("sheet");
let verdict="";
function keep(){try{localStorage.setItem(key,JSON.stringify(state));}catch(e){}}
function two(n){return String(n).padStart(2,"0");}
function now(){
  const d=new Date(),o=-d.getTimezoneOffset(),s=o<0?"-":"+",a=Math.abs(o);
  return d.getFullYear()+"-"+two(d.getMonth()+1)+"-"+two(d.getDate())+"T"+two(d.getHours())+":"+two(d.getMinutes())+
    ":"+two(d.getSeconds())+s+two(Math.floor(a/60))+":"+two(a%60);
}
function add(parent,tag,text,cls,id){
  const e=document.createElement(tag);
  if(text)e.textContent=text;
  if(cls)e.className=cls;
  if(id)e.id=id;
  parent.appendChild(e);
  return e;
}
function stepOf(id){return plan.steps.find(s=>s.id===id);}
function agrees(s,r){
  if("word" in s.expect)return r.word===s.expect.word;
  const low=s.expect.low===null?Infinity:s.expect.low,high=s.expect.high===null?Infinity:s.expect.high;
  return r.value>=low&&r.value<=high;
}
function lastOf(id){
  for(let k=state.entries.length-1;k>=0;--k)if(state.entries[k].step===id)return state.entries[k];
  return null;
}
/* Dead is what was proved so today, each step as expected, and nothing was read live since. */
function provedDead(){
  const today=now().slice(0,10);
  let from=0;
  state.entries.forEach((e,k)=>{const s=stepOf(e.step);if(s&&!s.dead)from=k+1;});
  const since=state.entries.slice(from);
  return plan.steps.filter(s=>s.makesSafe).every(s=>since.some(
    e=>e.step===s.id&&e.at.slice(0,10)===today&&agrees(s,e.reading)));
}
function openSteps(){return plan.steps.filter(s=>{const e=lastOf(s.id);return !e||!agrees(s,e.reading);}).length;}
function enter(s,reading){
  if(!state.who.trim()){verdict="Who reads? Write it above first.";return show();}
  const e={step:s.id,who:state.who.trim(),at:now(),reading};
  if(state.instrument.trim()){
    e.instrument={name:state.instrument.trim()};
    if(/^\d{4}-\d{2}-\d{2}$/.test(state.until.trim()))e.instrument.calibrated_until=state.until.trim();
  }
  state.entries.push(e);
  keep();
  if(agrees(s,reading)){verdict="As expected: "+s.look;if(state.at<plan.steps.length-1)++state.at;keep();}
  else verdict="NOT as expected. Stop here: find out why before going on.";
  show();
}
function field(name,words,type){
  const label=add(root,"label",words,"small");
  const input=add(label,"input","","",name);
  input.value=state[name];
  if(type)input.placeholder=type;
  input.addEventListener("input",()=>{state[name]=input.value;keep();});
}
function figureOf(text,s){
  const t=text.trim().replace(",",".");
  if(s.ohms&&/^(ol|open)$/i.test(t))return plan.overload;
  const n=Number(t);
  return t===""||!Number.isFinite(n)||n<0?null:n;
}
function answers(s){
  if(s.unit){
    const row=add(root,"div","","row");
    const input=add(row,"input","","","figure");
    input.inputMode="decimal";
    input.placeholder=s.unit;
    const take=()=>{
      const n=figureOf(input.value,s);
      if(n===null){verdict="That is no figure: 0.3, 2.5e6"+(s.ohms?", OL":"");return show();}
      enter(s,{value:n});
    };
    add(row,"button","Enter "+s.unit,"","enter").addEventListener("click",take);
    input.addEventListener("keydown",e=>{if(e.key==="Enter")take();});
    if(s.ohms)add(root,"button","OL: the meter shows open","","overload")
      .addEventListener("click",()=>enter(s,{value:plan.overload}));
  }else{
    add(root,"button",s.expect.word,"","as_expected").addEventListener("click",()=>enter(s,{word:s.expect.word}));
    const row=add(root,"div","","row");
    const input=add(row,"input","","","other");
    input.placeholder="what is seen instead";
    add(row,"button","Enter","","enter_other").addEventListener("click",()=>{
      if(input.value.trim())enter(s,{word:input.value.trim()});
    });
  }
}
function results(){
  return JSON.stringify({format:"sentry-results-1",circuit:plan.circuit,entries:state.entries},null,1);
}
function show(){
  root.textContent="";
  const s=plan.steps[state.at];
  add(root,"h1",plan.machine+": step "+(state.at+1)+" of "+plan.steps.length+", "+openSteps()+" open","","head");
  if(!s){add(root,"p","Nothing is open.");return;}
  const isDead=provedDead();
  const live=!s.dead||(!isDead&&!s.makesSafe);
  const supply=add(root,"div","",live?"live":"supply","supply");
  add(supply,"b",!s.dead?"LIVE: "+s.power:isDead?"DEAD: proved so today":s.makesSafe?
    "NOT PROVED DEAD YET: this is how":"NOT PROVED DEAD: first the steps \"make safe\"");
  if(verdict)add(root,"div",verdict,"verdict","verdict");
  add(root,"div",s.stage,"small");
  if(s.how.length){const how=add(root,"ol","","how");s.how.forEach(h=>add(how,"li",h));}
  add(root,"div",s.look,"look","look");
  add(root,"div","expected: "+s.expected,"","expected");
  if(s.dead&&!s.makesSafe&&!isDead){
    add(root,"button","To the steps that make it safe","","make_safe").addEventListener("click",()=>{
      state.at=plan.steps.findIndex(x=>x.makesSafe);verdict="";keep();show();});
  }else answers(s);
  const row=add(root,"div","","row");
  const back=add(row,"button","Back","","back");
  back.disabled=state.at===0;
  back.addEventListener("click",()=>{--state.at;verdict="";keep();show();});
  const skip=add(row,"button","Skip","","skip");
  skip.disabled=state.at>=plan.steps.length-1;
  skip.addEventListener("click",()=>{++state.at;verdict="";keep();show();});
  s.cautions.forEach(c=>add(root,"p",c,"small"));
  field("who","Who reads");
  field("instrument","Instrument");
  field("until","Calibrated until","2027-01-31");
  add(root,"button","Results as text","","as_text").addEventListener("click",()=>{
    let out=document.getElementById("results");
    if(!out)out=add(root,"textarea","","","results");
    out.value=results();
    out.select();
    if(navigator.clipboard)navigator.clipboard.writeText(out.value).catch(()=>{});
  });
  add(root,"button","Results as file","","as_file").addEventListener("click",()=>{
    const a=document.createElement("a");
    a.href=URL.createObjectURL(new Blob([results()],{type:"application/json"}));
    a.download="tall-sentry-results.json";
    a.click();
  });
  add(root,"p",plan.caution+" No phone in a hand that is inside.","small");
}
show();
)js";
}

} // namespace ts::report
