// Messages and the outbox: what the screens ask of the server about them.

import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { answer, client, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import type { Values } from "../form-sheet/judging";
import { isUnderWay } from "./words";

export type Template = Schemas["TemplateView"];
export type Entry = Schemas["TemplateEntry"];
export type Message = Schemas["WrittenMessage"];
export type Receiver = Message["to"][number];
export type Letter = Schemas["RenderedMailView"];
export type Line = Schemas["MessageLine"];

const of = (formKey: string) => ({ params: { path: { form_key: formKey } } });

export function useTemplates(formKey: string) {
  return useQuery({
    queryKey: keys.messages(formKey),
    queryFn: () => answer(client.GET("/api/v1/forms/{form_key}/messages", of(formKey))),
  });
}

/** How a message reads while it is being written; until an answer comes, that of the one before. */
export function useTemplateReading(formKey: string, entry: Entry) {
  return useQuery({
    queryKey: keys.messageReading(formKey, entry),
    queryFn: ({ signal }) =>
      answer(
        client.POST("/api/v1/forms/{form_key}/messages/read", {
          ...of(formKey),
          body: entry,
          signal,
        }),
      ),
    placeholderData: keepPreviousData,
    gcTime: 10_000,
  });
}

export type Shown = { number: number | null; values: Values | null };

export function usePreview(formKey: string, entry: Entry, shown: Shown | null) {
  return useQuery({
    queryKey: keys.messagePreview(formKey, entry, shown),
    queryFn: ({ signal }) =>
      answer(
        client.POST("/api/v1/forms/{form_key}/messages/preview", {
          ...of(formKey),
          body: { ...entry, ...(shown as Shown) },
          signal,
        }),
      ),
    enabled: shown !== null,
    placeholderData: keepPreviousData,
    retry: false,
    gcTime: 10_000,
  });
}

type Storing = { entry: Entry; id: number | null; revision: number };

export function useStoreTemplate(formKey: string, onStored: () => void) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: ({ entry, id, revision }: Storing) =>
      id === null
        ? answer(client.POST("/api/v1/forms/{form_key}/messages", { ...of(formKey), body: entry }))
        : answer(
            client.PUT("/api/v1/forms/{form_key}/messages/{template_id}", {
              params: { path: { form_key: formKey, template_id: id } },
              body: { ...entry, revision },
            }),
          ),
    onSuccess: async () => {
      await queries.invalidateQueries({ queryKey: keys.messages(formKey) });
      onStored();
    },
  });
}

export function useRemoveTemplate(formKey: string, onRemoved: (template: Template) => void) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async (template: Template) => {
      await answer(
        client.DELETE("/api/v1/forms/{form_key}/messages/{template_id}", {
          params: {
            path: { form_key: formKey, template_id: template.id },
            query: { revision: template.revision },
          },
        }),
      );
      return template;
    },
    onSuccess: async (template) => {
      onRemoved(template);
      await queries.invalidateQueries({ queryKey: keys.messages(formKey) });
    },
  });
}

export type OutboxAsked = { state: "" | Line["state"]; search: string; offset: number };

/** What went out of a form; looked at again while something still waits. */
export function useOutbox(formKey: string, asked: OutboxAsked) {
  return useQuery({
    queryKey: keys.sentMailList(formKey, asked),
    queryFn: () =>
      answer(
        client.GET("/api/v1/forms/{form_key}/outbox", {
          params: { path: { form_key: formKey }, query: asked },
        }),
      ),
    enabled: formKey !== "",
    placeholderData: keepPreviousData,
    refetchInterval: ({ state }) =>
      state.data?.messages.some((one) => isUnderWay(one, Date.now())) ? 2_000 : false,
  });
}

export function useWhole(formKey: string, id: number) {
  return useQuery({
    queryKey: keys.sentMailMessage(formKey, id),
    queryFn: () =>
      answer(
        client.GET("/api/v1/forms/{form_key}/outbox/{message_id}", {
          params: { path: { form_key: formKey, message_id: id } },
        }),
      ),
  });
}

export function useSendAgain(formKey: string) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (id: number) =>
      answer(
        client.POST("/api/v1/forms/{form_key}/outbox/{message_id}/again", {
          params: { path: { form_key: formKey, message_id: id } },
        }),
      ),
    onSettled: () => queries.invalidateQueries({ queryKey: keys.sentMail(formKey) }),
  });
}

export function useBox(me: string, offset: number) {
  return useQuery({
    queryKey: keys.inbox(me, offset),
    queryFn: () => answer(client.GET("/api/v1/box", { params: { query: { offset } } })),
    placeholderData: keepPreviousData,
  });
}

export function useMail(me: string, id: number) {
  return useQuery({
    queryKey: keys.inboxMail(me, id),
    queryFn: () =>
      answer(client.GET("/api/v1/box/{delivery_id}", { params: { path: { delivery_id: id } } })),
  });
}
