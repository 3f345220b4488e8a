-- Neovim as a person uses it: opens the sample, makes a mistake, sees it, mends it by the action that is offered, completes a token,
-- renames another one across files, formats. Ends with 0 where everything held, and writes what did not.
local said = {}
local function check(what, holds, seen)
  if not holds then
    table.insert(said, what .. ": " .. vim.inspect(seen))
  end
end
local function wait(what, holds)
  check(what, vim.wait(60000, holds, 20), "nothing came")
end
local function finish()
  vim.fn.writefile(vim.split(table.concat(said, "\n"), "\n"), vim.env.STILK_SAID)
  vim.cmd(#said == 0 and "qall!" or "cquit!")
end
local ok, why = pcall(function()
  local sheet = "controls/button.stilk"
  vim.cmd("edit " .. sheet)
  local buffer = vim.api.nvim_get_current_buf()
  check("the file's type", vim.bo.filetype == "stilk", vim.bo.filetype)
  wait("a client is attached", function()
    return #vim.lsp.buf_get_clients(buffer) > 0 and vim.lsp.buf_get_clients(buffer)[1] ~= nil or next(vim.lsp.buf_get_clients(buffer)) ~= nil
  end)
  local function find(text)
    for number, line in ipairs(vim.api.nvim_buf_get_lines(buffer, 0, -1, false)) do
      local at = line:find(text, 1, true)
      if at then
        return number, at - 1, line
      end
    end
    error("there is no " .. text)
  end
  local function replace(from, to)
    local number, at = find(from)
    vim.api.nvim_buf_set_text(buffer, number - 1, at, number - 1, at + #from, { to })
    vim.api.nvim_win_set_cursor(0, { number, at + 1 })
    return number
  end

  -- A token that there is none of.
  local line = replace("{ink.kelp-label}", "{ink.kelb-label}")
  local function told()
    return vim.tbl_filter(function(one)
      return one.lnum == line - 1
    end, vim.diagnostic.get(buffer))
  end
  wait("the mistake is told", function()
    return #told() == 1
  end)
  check("its words", told()[1].message:find("there is no token `ink.kelb-label`", 1, true), told()[1].message)
  check("its code", told()[1].code == "token/unknown", told()[1].code)

  -- The action that mends it.
  local params = vim.lsp.util.make_range_params()
  params.context = { diagnostics = {} }
  local answers = vim.lsp.buf_request_sync(buffer, "textDocument/codeAction", params, 60000)
  local action
  for id, answer in pairs(answers or {}) do
    action = answer.result and answer.result[1]
    if action then
      vim.lsp.util.apply_workspace_edit(action.edit, vim.lsp.get_client_by_id(id).offset_encoding)
    end
  end
  check("an action is offered", action and action.title == "Write `{ink.kelp-label}`", action and action.title)
  find("{ink.kelp-label}")
  wait("the mistake is gone", function()
    return #told() == 0
  end)

  -- Completion by the editor's own function.
  replace("color: var(--text);", "color: {ink.;")
  local number, at = find("color: {ink.;")
  vim.api.nvim_win_set_cursor(0, { number, at + #"color: {ink." })
  local position = vim.lsp.util.make_position_params()
  local offered = {}
  for _, answer in pairs(vim.lsp.buf_request_sync(buffer, "textDocument/completion", position, 60000) or {}) do
    for _, item in ipairs(answer.result.items) do
      offered[item.label] = item
    end
  end
  check("tokens are offered", offered["ink.strong"] ~= nil, vim.tbl_keys(offered))
  check("with their values", offered["ink.strong"] and offered["ink.strong"].detail:find("#", 1, true), offered["ink.strong"])
  replace("color: {ink.;", "color: var(--text);")

  -- A token gets another name in every file.
  vim.o.hidden = true
  number, at = find("{ink.sea-label}")
  vim.api.nvim_win_set_cursor(0, { number, at + 2 })
  vim.lsp.buf.rename("ink.over-sea")
  wait("the name is another one here", function()
    return pcall(find, "{ink.over-sea}")
  end)
  vim.cmd("wall")
  for _, path in ipairs({ "tokens/day.tokens.json", "controls/checkbox.stilk" }) do
    local text = table.concat(vim.fn.readfile(path), "\n")
    check(path .. " has the new name", text:find("over-sea", 1, true) and not text:find("[^-]on%-sea"), "the old one")
  end

  -- The plain layout.
  vim.api.nvim_set_current_buf(buffer)
  replace("  @state hover {", "      @state   hover{")
  if vim.lsp.buf.format then
    vim.lsp.buf.format({ timeout_ms = 60000 })
  else
    vim.lsp.buf.formatting_sync({}, 60000)
  end
  find("  @state hover {")
  vim.cmd("wall")
end)
check("no step breaks", ok, why)
finish()
