autocmd BufNewFile,BufRead *.stilk setfiletype stilk
