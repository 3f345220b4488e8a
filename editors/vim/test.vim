" Holds the syntax against words that must have it: run by `vim -es -u NONE -S`.
set nocompatible
let s:here = expand('<sfile>:p:h')
execute 'set runtimepath+=' . s:here
syntax on
let s:cases = [
  \ ['@control button from other { }', 'button', 'stilkName'],
  \ ['@control button from other { }', 'from', 'stilkWord'],
  \ ['@control button from other { }', '@control', 'stilkRule'],
  \ ['@control a { @state not hover and open { } }', 'not', 'stilkWord'],
  \ ['@control a { @part label::before { } }', '::before', 'stilkPseudo'],
  \ ['@control a { &:dir(rtl) { color: red; } }', '&', 'stilkNesting'],
  \ ['@control a { color: {ink.strong}; }', 'ink.strong', 'stilkReference'],
  \ ['@control a { color: {ink.strong}; }', 'color', 'stilkProperty'],
  \ ['@control a { --shade: 16%; }', '--shade', 'stilkLocal'],
  \ ['@control a { --shade: 16%; }', '16%', 'stilkNumber'],
  \ ['@control a { color: color-mix(in oklab, var(--x), #fff 4%); }', 'color-mix', 'stilkFunction'],
  \ ['@control a { color: color-mix(in oklab, var(--x), #fff 4%); }', '#fff', 'stilkColor'],
  \ ['@control a { color: color-mix(in oklab, var(--x), #fff 4%); }', '--x', 'stilkLocal'],
  \ ['@control a { @axis size default medium { small { } } }', 'small', 'stilkOption'],
  \ ['@control a { @axis size default medium { small { } } }', 'size', 'stilkName'],
  \ ['@control a { @media (width < {narrow}) { color: red; } }', 'narrow', 'stilkReference'],
  \ ['@control a { @media (width < {narrow}) { color: red; } }', 'color', 'stilkProperty'],
  \ ['@control a { @waive state/missing on .small "Why." until 2027-06-30; }', 'state/missing', 'stilkCheck'],
  \ ['@control a { @waive state/missing on .small "Why." until 2027-06-30; }', '2027-06-30', 'stilkDate'],
  \ ['@control a { @waive state/missing on .small "Why." until 2027-06-30; }', 'Why.', 'stilkString'],
  \ ['@derive { focus.ring: {fill.sea}; }', 'focus.ring', 'stilkDerived'],
  \ ['@keyframes turn { to { rotate: 1turn; } }', 'turn', 'stilkName'],
  \ ['/* a { color: */ @control b { }', 'color', 'stilkComment'],
  \ ]
let s:wrong = []
for [s:text, s:word, s:wanted] in s:cases
  enew!
  call setline(1, s:text)
  set filetype=stilk
  let s:at = stridx(s:text, s:word) + 1
  let s:is = synIDattr(synID(1, s:at, 1), 'name')
  if s:is !=# s:wanted
    call add(s:wrong, s:text . ': `' . s:word . '` is ' . s:is . ', not ' . s:wanted)
  endif
endfor
" Sheets of the sample: every rule is one, and no line is lost in a comment or a string.
for s:path in split(glob(s:here . '/../../demo/ternhaven/controls/*.stilk'), "\n")
  execute 'edit! ' . fnameescape(s:path)
  if &filetype !=# 'stilk'
    call add(s:wrong, s:path . ' is no sheet')
  endif
  for s:line in range(1, line('$'))
    let s:at = match(getline(s:line), '@\a')
    if s:at >= 0
      let s:is = synIDattr(synID(s:line, s:at + 1, 1), 'name')
      if s:is !~# 'stilkRule\|stilkComment\|stilkString'
        call add(s:wrong, s:path . ':' . s:line . ': a rule is ' . s:is)
      endif
    endif
  endfor
endfor
call writefile(s:wrong, $STILK_SAID)
execute empty(s:wrong) ? 'qall!' : 'cquit!'
