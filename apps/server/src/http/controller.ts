import { Controller, Req, Res, type Type } from '@nestjs/common';
import { api, type Endpoint } from '@ulvane/contract';
import type { Request, Response } from 'express';
import type { z } from 'zod';
import { refuse } from './problem';
import { Input, Serves, type ActorOfRequest, type InputOf } from './serves';

type Contract = typeof api;

/** Who calls: the account, which the access guard has made sure of, and the request as it came. */
type Caller = {
  /** Throws where the entry is for everybody and nobody is signed in. */
  readonly actor: ActorOfRequest;
  readonly request: Request;
  readonly response: Response;
};

/** What is sent is only read: nobody minds whether its lists may be changed. */
type Answer<T> = T extends readonly (infer Item)[]
  ? readonly Answer<Item>[]
  : T extends object
    ? { readonly [Key in keyof T]: Answer<T[Key]> }
    : T;

type AnswerOf<E extends Endpoint> = Answer<z.input<E['response']>>;

type Handler<E extends Endpoint, S> = (
  input: InputOf<E>,
  caller: Caller,
  services: S,
) => AnswerOf<E> | Promise<AnswerOf<E>>;

/** Handlers by the name of their entry of the contract: its input, and the answer that it says, follow from the name. */
type Handlers<S> = { readonly [K in keyof Contract]?: Handler<Contract[K], S> };

type Classes = Readonly<Record<string, Type>>;
type Services<C extends Classes> = { readonly [K in keyof C]: InstanceType<C[K]> };

function callerOf(request: Request, response: Response): Caller {
  return {
    request,
    response,
    get actor() {
      if (!request.actor) throw refuse('not-signed-in', 'Sign in first.');
      return request.actor;
    },
  };
}

/**
 * A controller that serves entries of the contract, each named once: method, path, who may call it, what it is given
 * and what it answers come from there.
 * @param classes services that the handlers use, by the name under which they get them
 */
export function controllerOf<C extends Classes>(classes: C, handlers: Handlers<Services<C>>): Type {
  const names = Object.keys(classes);
  class Served {
    readonly services: Services<C>;
    constructor(...given: unknown[]) {
      // Nest injects an instance of each class, in the order of `design:paramtypes` below.
      this.services = Object.fromEntries(names.map((name, index) => [name, given[index]])) as Services<C>;
    }
  }
  Reflect.defineMetadata('design:paramtypes', Object.values(classes), Served);
  for (const name of Object.keys(handlers) as (keyof Contract)[]) {
    // The entry and its handler have one name: the type of the one is that of the other.
    const handle = handlers[name] as Handler<Endpoint, Services<C>> | undefined;
    if (!handle) continue;
    const method = function (this: Served, input: InputOf<Endpoint>, request: Request, response: Response) {
      return handle(input, callerOf(request, response), this.services);
    };
    Object.defineProperty(method, 'name', { value: name });
    Object.defineProperty(Served.prototype, name, { value: method, writable: true, configurable: true });
    const descriptor = Object.getOwnPropertyDescriptor(Served.prototype, name);
    if (!descriptor) continue;
    Serves(api[name])(Served.prototype, name, descriptor);
    Input()(Served.prototype, name, 0);
    Req()(Served.prototype, name, 1);
    Res({ passthrough: true })(Served.prototype, name, 2);
  }
  Controller()(Served);
  return Served;
}
