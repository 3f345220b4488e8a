-- Neovim 0.7 and later: `luafile editors/neovim.lua`, or copy it into the configuration.
-- STILK names the program where it is not found by its name.
local program = vim.env.STILK or "stilk"

local function start()
  local name = vim.api.nvim_buf_get_name(0)
  local manifest = vim.fn.findfile("stilk.toml", vim.fn.fnamemodify(name, ":p:h") .. ";")
  if manifest == "" then
    return
  end
  local root = vim.fn.fnamemodify(manifest, ":p:h")
  vim.g.stilk_clients = vim.g.stilk_clients or {}
  local clients = vim.g.stilk_clients
  local id = clients[root]
  if not id or not vim.lsp.get_client_by_id(id) then
    id = vim.lsp.start_client({ name = "stilk", cmd = { program, "lsp" }, root_dir = root })
    clients[root] = id
    vim.g.stilk_clients = clients
  end
  vim.lsp.buf_attach_client(0, id)
  vim.bo.omnifunc = "v:lua.vim.lsp.omnifunc"
end

local group = vim.api.nvim_create_augroup("stilk", { clear = true })
vim.api.nvim_create_autocmd({ "BufReadPost", "BufNewFile" }, {
  group = group,
  pattern = { "*.stilk", "stilk.toml", "*.tokens.json", "*.resolver.json", "*.html" },
  callback = start,
})
