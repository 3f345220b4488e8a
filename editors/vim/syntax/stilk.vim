" Sheets of Stilk.
if exists("b:current_syntax")
  finish
endif

syntax case match
syntax iskeyword @,48-57,-,_

syntax region stilkComment start="/\*" end="\*/" contains=stilkTodo
syntax keyword stilkTodo TODO FIXME contained

" Everything in values; a reference first, so that its braces open no block.
syntax match stilkReference "{\s*[^[:space:]{};:@(),]\+\s*}"
syntax region stilkString start=+"+ skip=+\\.+ end=+"+ oneline
syntax region stilkString start=+'+ skip=+\\.+ end=+'+ oneline
syntax match stilkNumber "\<\d\+\%(\.\d\+\)\?\%(%\|\a\+\)\?"
syntax match stilkNumber "\%(\k\)\@<!\.\d\+\%(%\|\a\+\)\?"
syntax match stilkColor "#\x\{3,8}\>"
syntax match stilkFunction "\<[-[:alnum:]]\+\ze("
syntax match stilkImportant "!\s*important\>"

syntax match stilkProperty "\%([{};]\s*\|^\s*\)\@<=[-[:alpha:]][-[:alnum:]]*\ze\s*:\%(:\)\@!"
syntax match stilkLocal "--[-_[:alnum:]]\+"
syntax match stilkDerived "\%([{};]\s*\|^\s*\)\@<=[-_[:alnum:]]\+\%(\.[-_[:alnum:]]\+\)\+\ze\s*:"
syntax match stilkOption "\%([{};]\s*\|^\s*\)\@<=[-_[:alnum:]]\+\ze\s*\%({\|marked\>\)"
syntax match stilkPseudo ":\{1,2}[-[:alpha:]]\+" contained

" Rules: their names, and what follows up to the block.
syntax match stilkRule "@[-[:alpha:]]\+" nextgroup=stilkPrelude skipwhite
syntax match stilkRule "@\%(control\|trait\|axis\|option\|keyframes\)\>" nextgroup=stilkName skipwhite
syntax match stilkName "[-_[:alnum:]]\+" contained nextgroup=stilkPrelude skipwhite
syntax match stilkNesting "&" nextgroup=stilkPrelude
syntax match stilkPrelude "\%([^{};]\|{\s*[^[:space:]{};:@(),]\+\s*}\)\+" contained contains=stilkWord,stilkPseudo,stilkString,stilkReference,stilkCheck,stilkDate,stilkComment,stilkNumber
syntax keyword stilkWord from inside default optional marked and or not of as with without on until only contained
syntax match stilkCheck "\<[-[:alpha:]]\+/[-[:alpha:]]\+\>" contained
syntax match stilkDate "\<\d\{4}-\d\d-\d\d\>" contained

syntax sync fromstart

highlight default link stilkComment Comment
highlight default link stilkTodo Todo
highlight default link stilkReference Identifier
highlight default link stilkString String
highlight default link stilkNumber Number
highlight default link stilkColor Constant
highlight default link stilkFunction Function
highlight default link stilkImportant Error
highlight default link stilkProperty Type
highlight default link stilkLocal PreProc
highlight default link stilkDerived Identifier
highlight default link stilkOption Label
highlight default link stilkPseudo Special
highlight default link stilkRule Statement
highlight default link stilkName Structure
highlight default link stilkNesting Statement
highlight default link stilkWord Operator
highlight default link stilkCheck Constant
highlight default link stilkDate Number

let b:current_syntax = "stilk"
