" Comments, words and indents of sheets.
if exists("b:did_ftplugin")
  finish
endif
let b:did_ftplugin = 1

setlocal comments=s1:/*,mb:*,ex:*/ commentstring=/*\ %s\ */
setlocal iskeyword+=-
setlocal shiftwidth=2 softtabstop=2 expandtab
setlocal smartindent

let b:undo_ftplugin = "setlocal comments< commentstring< iskeyword< shiftwidth< softtabstop< expandtab< smartindent<"
